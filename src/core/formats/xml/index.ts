import { foldBlanks } from '../../document/characters.ts'
import { Kind } from '../../document/kind.ts'
import type { Tree } from '../../document/tree.ts'
import type { Format, Reading } from '../format.ts'
import { decodeAttribute, decodeText } from './decode.ts'
import { XmlScanner } from './scanner.ts'

function nodeName(tree: Tree, node: number): string {
  const start = tree.start[node] ?? 0
  switch (tree.kind[node]) {
    case Kind.Element:
      return tree.source.slice(start + 1, tree.nameEnd[node])
    case Kind.Attribute:
      return tree.source.slice(start, tree.nameEnd[node])
    case Kind.Instruction:
      return tree.source.slice(start + 1, tree.nameEnd[node])
    default:
      return ''
  }
}

function read(source: string, like?: Reading): Reading {
  const scanner = new XmlScanner(
    source,
    like === undefined || hasDoctype(like) ? undefined : like.tree,
  )
  scanner.read()
  return { tree: scanner.tree, problems: scanner.problems, lax: [] }
}

/** Whether entities may have been declared, so that the same text may be right in one document alone. */
function hasDoctype({ tree }: Reading): boolean {
  const stop = tree.next[0] ?? 0
  for (let node = 1; node < stop; node = tree.next[node] ?? stop) {
    if (tree.source.startsWith('<!', tree.start[node]) && tree.kind[node] !== Kind.Comment)
      return true
  }
  return false
}

export const xml: Format = {
  name: 'xml',
  read: (source) => read(source),
  reader: () => ({ read, dialect: '' }),
  nodeName,
  leafValue(tree, node) {
    const raw = tree.body(node)
    if (tree.kind[node] === Kind.Attribute) return decodeAttribute(raw).trim()
    if (tree.kind[node] === Kind.Instruction) return foldBlanks(raw)
    return decodeText(raw).trim()
  },
  commentText: (tree, node) => foldBlanks(tree.body(node)),
  separator: '',
  foldsCase: false,
  lineComments: false,
}
