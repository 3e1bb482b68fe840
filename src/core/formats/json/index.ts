import { foldBlanks } from '../../document/characters.ts'
import { Kind } from '../../document/kind.ts'
import type { Problem } from '../../document/problem.ts'
import type { Tree } from '../../document/tree.ts'
import type { ReadBefore } from '../../document/shared/read-after.ts'
import { firstOfKinds, VALUES } from '../doc.ts'
import type { DialectReader, DialectSettings, Format, LaxTrait, ScalarSort } from '../format.ts'
import { APOSTROPHE, QUOTE } from './characters.ts'
import { decodeString } from './decode.ts'
import type { JsonDialect } from './dialect.ts'
import { canonicalNumber } from './number.ts'
import { jsonProblems } from './problems.ts'
import { JsonScanner } from './scanner.ts'

function laxTraits(scanner: JsonScanner): LaxTrait[] {
  const traits: LaxTrait[] = []
  const comment = scanner.firstComment
  if (comment >= 0) {
    const warning = jsonProblems.laxComment({ start: comment, end: comment + 2 })
    traits.push({ trait: 'comments', warning })
  }
  const comma = scanner.firstTrailingComma
  if (comma >= 0) {
    const warning = jsonProblems.laxTrailingComma({ start: comma, end: comma + 1 })
    traits.push({ trait: 'trailing-commas', warning })
  }
  if (scanner.firstJson5 >= 0) {
    const span = { start: scanner.firstJson5, end: scanner.firstJson5 + 1 }
    traits.push({ trait: 'json5', warning: jsonProblems.laxJson5(span) })
  }
  return traits
}

/** The decoded value of a scalar with its type before it, so that `1` and `"1"` differ. */
function scalarValue(tree: Tree, node: number): string {
  const raw = tree.body(node)
  if (isString(tree, node)) return `"${decodeString(raw).trim()}`
  return /^[-+.0-9]/.test(raw) ? canonicalNumber(raw) : raw
}

function isString(tree: Tree, node: number): boolean {
  const first = tree.source.charCodeAt(tree.start(node))
  return first === QUOTE || first === APOSTROPHE
}

function scalarSort(tree: Tree, node: number): ScalarSort {
  if (isString(tree, node)) return 'string'
  const first = tree.source.charAt(tree.start(node))
  if (first === 't' || first === 'f') return 'boolean'
  return first === 'n' ? 'null' : 'number'
}

/** A string's text escaped; a number, a boolean and null stay of their sort. */
function encode(tree: Tree, node: number, text: string): string | undefined {
  const sorts: Record<ScalarSort, RegExp> = {
    string: /^/,
    number: /^-?(?:0|[1-9][0-9]*)(?:\.[0-9]+)?(?:[eE][-+]?[0-9]+)?$/,
    boolean: /^(?:true|false)$/,
    null: /^null$/,
  }
  const sort = scalarSort(tree, node)
  if (!sorts[sort].test(text)) return undefined
  if (sort !== 'string') return text
  const quote = tree.source.charAt(tree.start(node))
  return text.replace(/[\\\u0000-\u001f]|["']/g, (character) => {
    if (character === '"' || character === "'")
      return character === quote ? `\\${character}` : character
    return character === '\\' ? '\\\\' : escape(character)
  })
}

/** A character as JSON can write it in ASCII. */
function escape(character: string): string {
  const units = Array.from({ length: character.length }, (_, i) => character.charCodeAt(i))
  return units.map((unit) => `\\u${unit.toString(16).padStart(4, '0')}`).join('')
}

/** What begins like a member or an item: up to the comment in which its brackets are closed. */
function entryLength(comments: readonly string[], from: number, among: Kind): number {
  const begins = among === Kind.Member ? /^\s*["'\w$]+[^:]*:/ : /^\s*[{[]/
  if (!begins.test(comments[from] ?? '')) return 0
  let depth = 0
  for (let at = from; at < comments.length; at++) {
    for (const bracket of comments[at]?.match(/[[\]{}]/g) ?? [])
      depth += bracket === '{' || bracket === '[' ? 1 : -1
    if (depth <= 0) return at + 1 - from
  }
  return 0
}

function scan(source: string, json5: boolean, before?: ReadBefore): JsonScanner {
  const scanner = new JsonScanner(source, json5, before)
  scanner.read()
  return scanner
}

/** Whether a source is JSON5 and no plain JSON: it is read as that where vanilla's is. */
function isJson5(source: string): boolean {
  return scan(source, false).problems.length > 0 && scan(source, true).problems.length === 0
}

/** A reader of the dialect that the config names: what it allows is no laxness, all else is an error. */
function readerOf(dialect: JsonDialect): DialectReader {
  return {
    read(source) {
      const scanner = scan(source, dialect === 'json5')
      const lax = dialect === 'strict' ? laxTraits(scanner) : []
      const errors = lax.map(({ warning }): Problem => ({ ...warning, severity: 'error' }))
      return { tree: scanner.tree, problems: [...scanner.problems, ...errors], lax: [] }
    },
    dialect,
  }
}

/** What is plain JSON is read as that; only where it is not is vanilla asked whether it is JSON5. */
function reader(vanilla: readonly string[], settings: DialectSettings = {}): DialectReader {
  if (settings.json !== undefined) return readerOf(settings.json)
  let json5: boolean | undefined
  return {
    read(source, before) {
      const isStrict = before?.result.problems.length === 0 && before.result.lax.length === 0
      const known = isStrict
        ? { tree: before.result.tree, thresholds: before.thresholds }
        : undefined
      let scanner = scan(source, false, known)
      if (scanner.problems.length > 0 && (json5 ??= vanilla.some(isJson5)))
        scanner = scan(source, true)
      return { tree: scanner.tree, problems: scanner.problems, lax: laxTraits(scanner) }
    },
    dialect: '',
  }
}

export const json: Format = {
  name: 'json',
  read: (source, vanilla = []) => reader(vanilla).read(source),
  reader,
  nodeName(tree, node) {
    if (tree.kind(node) !== Kind.Member) return ''
    const name = tree.source.slice(tree.start(node), tree.nameEnd(node))
    return /^["']/.test(name) ? decodeString(name.slice(1, -1)) : name
  },
  root: (tree) => firstOfKinds(tree, 0, VALUES),
  hasOneRoot: true,
  leafValue: scalarValue,
  leafText: (tree, node) =>
    isString(tree, node) ? decodeString(tree.body(node)).trim() : tree.body(node),
  scalarSort,
  encode,
  escape,
  asSource: (comment, among) =>
    among === Kind.Member
      ? { source: `{${comment}}`, holdsEntries: true }
      : { source: comment, holdsEntries: false },
  entryLength,
  amongComments: (comments) => `${comments}\n0`,
  commentText: (tree, node) => foldBlanks(tree.body(node).replace(/^\s*\*/gm, '')),
  separator: ',',
  missing: undefined,
  foldsCase: false,
  lineComments: true,
}
