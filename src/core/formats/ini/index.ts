import { foldBlanks } from '../../document/characters.ts'
import { Kind } from '../../document/kind.ts'
import type { DialectReader, Format } from '../format.ts'
import { describeIni, inferIniDialect } from './dialect.ts'
import { IniScanner } from './scanner.ts'

function reader(vanilla: readonly string[]): DialectReader {
  const dialect = inferIniDialect(vanilla)
  return {
    read(source) {
      const scanner = new IniScanner(source, dialect)
      scanner.read()
      return { tree: scanner.tree, problems: scanner.problems, lax: [] }
    },
    dialect: describeIni(dialect),
  }
}

export const ini: Format = {
  name: 'ini',
  read: (source, vanilla = [source]) => reader(vanilla).read(source),
  reader,
  nodeName(tree, node) {
    const start = tree.start[node] ?? 0
    if (tree.kind[node] === Kind.Section)
      return tree.source.slice(start + 1, tree.nameEnd[node]).trim()
    return tree.kind[node] === Kind.Property ? tree.source.slice(start, tree.nameEnd[node]) : ''
  },
  leafValue: (tree, node) => tree.body(node).trim(),
  commentText: (tree, node) => foldBlanks(tree.body(node).replace(/^\//, '')),
  separator: '',
  foldsCase: true,
  lineComments: true,
}
