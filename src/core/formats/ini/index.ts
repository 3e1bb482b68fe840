import { foldBlanks } from '../../document/characters.ts'
import { Kind } from '../../document/kind.ts'
import type { Format } from '../format.ts'
import { IniScanner } from './scanner.ts'

export const ini: Format = {
  name: 'ini',
  read(source) {
    const scanner = new IniScanner(source)
    scanner.read()
    return { tree: scanner.tree, problems: scanner.problems, lax: [] }
  },
  nodeName(tree, node) {
    const start = tree.start[node] ?? 0
    if (tree.kind[node] === Kind.Section)
      return tree.source.slice(start + 1, tree.nameEnd[node]).trim()
    return tree.kind[node] === Kind.Property ? tree.source.slice(start, tree.nameEnd[node]) : ''
  },
  leafValue: (tree, node) => tree.body(node).trim(),
  commentText: (tree, node) => foldBlanks(tree.body(node)),
  separator: '',
  lineComments: true,
}
