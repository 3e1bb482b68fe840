import { afterQuote, foldBlanks, unindented } from '../../document/characters.ts'
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

/** Of a comment that two slashes begin the second is part of its text. */
function withoutSlash(comment: string): string {
  return comment.replace(/^\//gm, '')
}

/** A line with a separator; of a section the header and the lines of its properties. */
function entryLength(comments: readonly string[], from: number, among: Kind): number {
  const isProperty = (comment = ''): boolean => /^\/?\s*[^\s=:;#[][^=:]*[=:]/.test(comment)
  if (among === Kind.Property) return isProperty(comments[from]) ? 1 : 0
  if (!/^\/?\s*\[[^\]]+\]\s*$/.test(comments[from] ?? '')) return 0
  let stop = from + 1
  while (stop < comments.length && isProperty(comments[stop])) stop++
  return stop - from
}

/** A value over lines may be indented anew; in its quotes each blank counts. */
function unindentedOutside(value: string): string {
  if (!/[\r\n]/.test(value)) return value
  let folded = ''
  let at = 0
  for (let open = value.indexOf('"'); open >= 0; open = value.indexOf('"', at)) {
    const end = afterQuote(value, open)
    // behind a quote that nothing closes none is closed
    if (end > value.length) break
    folded += unindented(value.slice(at, open)) + value.slice(open, end)
    at = end
  }
  return folded + unindented(value.slice(at))
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
  leafValue: (tree, node) => unindentedOutside(tree.body(node).trim()),
  leafText: (tree, node) => tree.body(node).trim(),
  scalarSort: () => undefined,
  encode: (_tree, _node, text) => (/[\r\n\0]|^\s|\s$/.test(text) ? undefined : text),
  escape: undefined,
  asSource: (comment) => ({ source: withoutSlash(comment), holdsEntries: true }),
  entryLength,
  amongComments: (comments) => comments,
  commentText: (tree, node) => foldBlanks(withoutSlash(tree.body(node))),
  separator: '',
  missing: undefined,
  foldsCase: true,
  lineComments: true,
}
