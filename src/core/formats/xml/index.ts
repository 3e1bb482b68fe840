import { foldBlanks, unindented } from '../../document/characters.ts'
import { Kind } from '../../document/kind.ts'
import type { Tree } from '../../document/tree.ts'
import { firstOfKinds } from '../doc.ts'
import type { Format, ParseResult, ReadSource } from '../format.ts'
import { missingDeclarations } from './declarations.ts'
import { decodeAttribute, decodeText } from './decode.ts'
import { isAllowedCodePoint } from './grammar.ts'
import { XmlScanner } from './scanner.ts'

function nodeName(tree: Tree, node: number): string {
  const start = tree.start(node)
  switch (tree.kind(node)) {
    case Kind.Element:
      return tree.source.slice(start + 1, tree.nameEnd(node))
    case Kind.Attribute:
      return tree.source.slice(start, tree.nameEnd(node))
    case Kind.Instruction:
      return tree.source.slice(start + 1, tree.nameEnd(node))
    default:
      return ''
  }
}

function read(source: string, before?: ReadSource): ParseResult {
  const isKnown = before?.result.problems.length === 0 && !hasDoctype(before.result.tree)
  const known = isKnown ? { tree: before.result.tree, thresholds: before.thresholds } : undefined
  const scanner = new XmlScanner(source, known)
  scanner.read()
  return { tree: scanner.tree, problems: scanner.problems, lax: [] }
}

/** Whether entities may have been declared, so that the same text may be right in one document alone. */
function hasDoctype(tree: Tree): boolean {
  const stop = tree.next(0)
  for (let node = 1; node < stop; node = tree.next(node))
    if (tree.source.startsWith('<!', tree.start(node)) && tree.kind(node) !== Kind.Comment)
      return true
  return false
}

function leafText(tree: Tree, node: number): string {
  return decoded(tree, node, tree.body(node))
}

/** What is marked as it stands is compared with each of its blanks; all other text over lines may be indented anew. */
function leafValue(tree: Tree, node: number): string {
  const raw = tree.body(node)
  return decoded(tree, node, raw.includes('<![CDATA[') ? raw : unindented(raw))
}

function decoded(tree: Tree, node: number, raw: string): string {
  if (tree.kind(node) === Kind.Attribute) return decodeAttribute(raw).trim()
  if (tree.kind(node) === Kind.Instruction) return instructionForm(tree, node)
  return decodeText(raw).trim()
}

/** What an instruction says, whatever quotes and blanks it has; of the declaration also whatever capitals. */
function instructionForm(tree: Tree, node: number): string {
  const said = foldBlanks(tree.body(node)).replace(/'([^"']*)'/g, '"$1"')
  if (!isDeclaration(tree, node)) return said
  return said.toLowerCase().replace(/ ?= ?/g, '=')
}

function isDeclaration(tree: Tree, node: number): boolean {
  return tree.source.slice(tree.start(node), tree.nameEnd(node)) === '<?xml'
}

/** References for what is markup; nothing can stand for a character that XML forbids. */
function encode(tree: Tree, node: number, text: string): string | undefined {
  const isAllowed = Array.from(text).every((each) => isAllowedCodePoint(each.codePointAt(0) ?? 0))
  if (!isAllowed) return undefined
  const escaped = text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;')
  if (tree.kind(node) !== Kind.Attribute) return escaped
  const isSingle = tree.source[tree.bodyStart(node) - 1] === "'"
  const quoted = isSingle ? escaped.replace(/'/g, '&apos;') : escaped.replace(/"/g, '&quot;')
  return quoted.replace(/[\n\r\t]/g, escape)
}

/** A character as a reference to it. */
function escape(character: string): string {
  return `&#x${(character.codePointAt(0) ?? 0).toString(16).toUpperCase()};`
}

const ELEMENTS = new Set([Kind.Element])

export const xml: Format = {
  name: 'xml',
  read: (source) => read(source),
  reader: () => ({ read, dialect: '' }),
  nodeName,
  root: (tree) => firstOfKinds(tree, 0, ELEMENTS),
  hasOneRoot: true,
  leafValue,
  leafText,
  scalarSort: () => undefined,
  encode,
  escape,
  asSource: (comment) => ({ source: comment, holdsEntries: false }),
  entryLength: (comments, from) => (/^\s*</.test(comments[from] ?? '') ? 1 : 0),
  amongComments: (comments) => `${comments}<a/>`,
  commentText: (tree, node) => foldBlanks(tree.body(node)),
  missing: missingDeclarations,
  separator: '',
  foldsCase: false,
  lineComments: false,
}
