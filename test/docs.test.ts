import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import ts from 'typescript'
import { expect, test } from 'vitest'
import { COMMANDS } from '../src/commands/index.ts'
import { CHECKS } from '../src/core/checks/index.ts'
import { CONFLICT_KINDS } from '../src/core/plan/telling.ts'
import { parseConfig } from '../src/workspace/config/config.ts'
import { EXIT } from '../src/workspace/failure.ts'

const ROOT = fileURLToPath(new URL('..', import.meta.url))
const read = (path: string): string => readFileSync(join(ROOT, path), 'utf8')

/** Looks like the code of a message: `layer/what`. */
const CODE = /^[a-z]+\/[a-z0-9-]+$/

interface Codes {
  whole: Set<string>
  /** What codes begin with that are put together, such as `system/` and what the system says. */
  begun: Set<string>
}

/** All texts of the program's source that look like codes; what is imported is none. */
function codesInSource(): Codes {
  const codes: Codes = { whole: new Set(), begun: new Set() }
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node) || ts.isImportTypeNode(node))
      return
    if (ts.isCallExpression(node) && node.expression.kind === ts.SyntaxKind.ImportKeyword) return
    if (ts.isStringLiteralLike(node) && CODE.test(node.text)) codes.whole.add(node.text)
    if (ts.isTemplateExpression(node) && /^[a-z]+\/[a-z-]*$/.test(node.head.text))
      codes.begun.add(node.head.text)
    ts.forEachChild(node, visit)
  }
  for (const file of readdirSync(join(ROOT, 'src'), { recursive: true, encoding: 'utf8' })) {
    if (!file.endsWith('.ts')) continue
    visit(ts.createSourceFile(file, read(join('src', file)), ts.ScriptTarget.ES2022))
  }
  return codes
}

/** The first column of the rows under a heading, without backquotes. */
const rowsOf = (pattern: RegExp, heading: string): string[] =>
  [...(read('docs/reference.md').split(`\n## ${heading}\n`)[1] ?? '').matchAll(pattern)].map(
    ([, first = '']) => first,
  )

test('the reference lists every message that the program has, and no other', () => {
  const { whole, begun } = codesInSource()
  const listed = rowsOf(/^\| `([a-z]+\/[a-z0-9-]+)` *\|/gm, 'Messages')
  const isPutTogether = (code: string): boolean => [...begun].some((head) => code.startsWith(head))
  expect(listed.filter((code) => !isPutTogether(code)).sort()).toEqual(
    [...whole].filter((code) => !isPutTogether(code)).sort(),
  )
  for (const head of begun)
    expect([head, listed.some((code) => code.startsWith(head))]).toEqual([head, true])
  const system = [...read('src/workspace/failure.ts').matchAll(/^ {2}(E[A-Z]+): \[/gm)]
  expect(listed.filter((code) => code.startsWith('system/')).sort()).toEqual(
    system.map(([, name = '']) => `system/${name.toLowerCase()}`).sort(),
  )
})

test('the reference lists every exit code', () => {
  expect(rowsOf(/^\| ([0-9]+) +\|/gm, 'Exit codes').map(Number)).toEqual(Object.values(EXIT))
})

test('every screenshot is linked from the README', () => {
  const readme = read('README.md')
  const shots = readdirSync(join(ROOT, 'docs', 'screenshots'))
  expect(shots.filter((shot) => !readme.includes(`docs/screenshots/${shot}`))).toEqual([])
})

/** How a command is called. */
const wordsOf = (id: string): string => id.replaceAll(':', ' ')

test('the reference names every command, every kind of conflict and every kind of check', () => {
  const reference = read('docs/reference.md')
  const commands = Object.keys(COMMANDS).map((id) => `anagnosis ${wordsOf(id)}`)
  expect(commands.filter((call) => !reference.includes(call))).toEqual([])
  expect(CONFLICT_KINDS.filter((kind) => !reference.includes(`\`${kind}\``))).toEqual([])
  const checks = CHECKS.map(({ kind }) => kind)
  expect(checks.filter((kind) => !new RegExp(`^[|].*\\b${kind}: `, 'm').test(reference))).toEqual(
    [],
  )
})

/** What the reference says of a call: its command, the options that its lines show, and those that the text names. */
function callsOfReference(): Map<string, { shown: Set<string>; named: Set<string> }> {
  const known = Object.keys(COMMANDS).map(wordsOf)
  const calls = new Map<string, { shown: Set<string>; named: Set<string> }>()
  const optionsIn = (text: string): string[] => text.match(/--[a-z][a-z-]*/g) ?? []
  for (const section of read('docs/reference.md').split(/^## /m)) {
    const named = optionsIn(section)
    for (const [, line = ''] of section.matchAll(/^ {4}anagnosis (.*)$/gm)) {
      const id =
        known
          .filter((each) => `${line} `.startsWith(`${each} `))
          .sort()
          .at(-1) ?? line
      const call = calls.get(id) ?? { shown: new Set(), named: new Set() }
      for (const option of optionsIn(line)) call.shown.add(option)
      for (const option of named) call.named.add(option)
      calls.set(id, call)
    }
  }
  return calls
}

test('the calls of the reference have the options that the program has, and each is named', () => {
  const calls = callsOfReference()
  expect([...calls.keys()].sort()).toEqual(Object.keys(COMMANDS).map(wordsOf).sort())
  for (const [id, command] of Object.entries(COMMANDS)) {
    const { shown, named } = calls.get(wordsOf(id)) ?? {}
    const optionsOf = (flags: object): string[] => Object.keys(flags).map((name) => `--${name}`)
    // those of every command that has a workspace are told once
    const every = optionsOf(COMMANDS.overview.baseFlags)
    const own = optionsOf(command.flags ?? {}).filter((each) => !every.includes(each))
    const unknown = [...(shown ?? [])].filter(
      (each) => !own.includes(each) && !every.includes(each),
    )
    expect([id, unknown]).toEqual([id, []])
    expect([id, own.filter((each) => named?.has(each) !== true)]).toEqual([id, []])
  }
})

test('every config that the docs show is right', () => {
  for (const page of ['guide.md', 'reference.md', 'troubleshooting.md', 'windows.md'])
    for (const [, config = ''] of read(`docs/${page}`).matchAll(/^```yaml\n([^`]*)```$/gm))
      expect(() => parseConfig(config, page)).not.toThrow()
})
