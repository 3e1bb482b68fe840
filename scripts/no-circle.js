// A rule for ESLint: no module imports one that imports it again, on whatever way, imports of types included,
// which the usual rule against cycles passes over.
import { existsSync, readFileSync } from 'node:fs'
import { dirname, relative, resolve } from 'node:path'

const IMPORT = /(?:^|\n)\s*(?:import|export)\b[^'"]*?from\s*'(\.[^']+)'|import\('(\.[^']+)'\)/g

/** The modules that a text imports, by their paths. */
function importsIn(text, file) {
  return [...text.matchAll(IMPORT)].map(([, from, later]) => resolve(dirname(file), from ?? later))
}

const known = new Map()

function importsOf(file) {
  if (!known.has(file))
    known.set(file, existsSync(file) ? importsIn(readFileSync(file, 'utf8'), file) : [])
  return known.get(file)
}

/** The shortest way from a module to another one; undefined where there is none. */
function wayTo(target, from) {
  const before = new Map([[from, undefined]])
  for (const file of before.keys()) {
    if (file === target) {
      const way = []
      for (let each = file; each !== undefined; each = before.get(each)) way.unshift(each)
      return way
    }
    for (const next of importsOf(file)) if (!before.has(next)) before.set(next, file)
  }
  return undefined
}

export const noCircle = {
  meta: { type: 'problem', messages: { circle: 'A circle of imports: {{way}}' }, schema: [] },
  create: (context) => ({
    'ImportDeclaration, ExportNamedDeclaration[source], ExportAllDeclaration'(node) {
      const name = node.source.value
      if (!name.startsWith('.')) return
      const way = wayTo(context.filename, resolve(dirname(context.filename), name))
      if (way === undefined) return
      const shown = [context.filename, ...way].map((file) => relative(context.cwd, file))
      context.report({ node, messageId: 'circle', data: { way: shown.join(' → ') } })
    },
  }),
}
