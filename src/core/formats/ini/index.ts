import { foldBlanks } from '../../document/characters.ts'
import { Kind } from '../../document/kind.ts'
import type { DialectReader, DialectSettings, Format } from '../format.ts'
import type { IniDialect } from './dialect.ts'
import { describeIni, inferIniDialect } from './dialect.ts'
import { IniScanner } from './scanner.ts'

/** A dialect as inferred, and what is said of it instead. */
function settledBy(inferred: IniDialect, said: NonNullable<DialectSettings['ini']>): IniDialect {
  return {
    separators: said.separators ?? inferred.separators,
    bareNames: said.bareNames ?? inferred.bareNames,
    inlineComments: said.inlineComments ?? inferred.inlineComments,
    slashComments: said.slashComments ?? inferred.slashComments,
    braces: said.braces ?? inferred.braces,
    openQuotes: said.openQuotes ?? inferred.openQuotes,
  }
}

function reader(vanilla: readonly string[], settings: DialectSettings = {}): DialectReader {
  const dialect = settledBy(inferIniDialect(vanilla), settings.ini ?? {})
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
    const start = tree.start(node)
    if (tree.kind(node) === Kind.Section)
      return tree.source.slice(start + 1, tree.nameEnd(node)).trim()
    return tree.kind(node) === Kind.Property ? tree.source.slice(start, tree.nameEnd(node)) : ''
  },
  root: () => 0,
  hasOneRoot: false,
  leafValue: (tree, node) => tree.body(node).trim(),
  leafText: (tree, node) => tree.body(node).trim(),
  scalarSort: () => undefined,
  escape: undefined,
  asSource: (comment) => ({ source: comment, holdsEntries: true }),
  commentText: (tree, node) => foldBlanks(tree.body(node).replace(/^\//, '')),
  separator: '',
  missing: undefined,
  foldsCase: true,
  lineComments: true,
}
