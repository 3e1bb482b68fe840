import type { Problem } from '../document/problem.ts'
import type { Kind } from '../document/kind.ts'
import type { Thresholds } from '../document/thresholds.ts'
import type { Tree } from '../document/tree.ts'
import type { IniDialect } from './ini/dialect.ts'
import type { JsonDialect } from './json/dialect.ts'

export const FORMAT_NAMES = ['xml', 'json', 'ini'] as const
export type FormatName = (typeof FORMAT_NAMES)[number]

/** What a format's reader gives: the tree, and what is wrong with the source; a tree with errors is not to be used. */
export interface ParseResult {
  tree: Tree
  problems: Problem[]
  /** What the source uses of a dialect laxer than the strictest, each with what to say of it. */
  lax: readonly LaxTrait[]
}

/** A laxness that one file has and its siblings may lack: kept where it stands, never added. */
export interface LaxTrait {
  trait: string
  /** What to say where mine has the trait and no vanilla file has. */
  warning: Problem
}

/** What the config says of a dialect; all else is inferred. */
export interface DialectSettings {
  ini?: { [Key in keyof IniDialect]?: IniDialect[Key] | undefined }
  json?: JsonDialect | undefined
}

/** A source that was read, after which another may be. */
export interface ReadSource {
  result: ParseResult
  thresholds: Thresholds
}

/** The sort of a scalar: what it is to a program that reads the file. */
export type ScalarSort = 'string' | 'number' | 'boolean' | 'null'

/** The text of a comment as a source of its own. */
export interface CommentSource {
  source: string
  /** Whether entries are what its root holds; else the root is the one entry. */
  holdsEntries: boolean
}

/** What a source that was put together uses, and that only the inputs declare. */
export interface MissingDeclaration {
  /** What is declared, as keys name that: `@xmlns:sea`, `!DOCTYPE`. */
  key: string
  /** The same for people: `the prefix sea`. */
  what: string
  /** The declaration with the blanks that part it from what is there, and where it is to stand. */
  text: string
  at: number
}

/** Reads sources of one family of files. */
export interface DialectReader {
  /** @param before what the same reader read before, and that is mostly the same */
  read(source: string, before?: ReadSource): ParseResult
  /** The dialect in a few words, as far as no laxness of a reading tells it; empty where it is plain. */
  dialect: string
}

/** A name in the form in which two are compared: without capitals where the format takes them for one. */
export function foldName(format: Format, name: string): string {
  return format.foldsCase ? name.toLowerCase() : name
}

/** What one format adds to the tree and the merge that all share. */
export interface Format {
  name: FormatName
  /**
   * Reads a whole source. Never throws: what is wrong is in `problems`.
   *
   * @param vanilla the sources from which the dialect is inferred; the source itself by default
   */
  read(source: string, vanilla?: readonly string[]): ParseResult
  /**
   * Infers the dialect of vanilla's sources once, for all that is read in it.
   *
   * @param settings what is said of the dialect, so that it need not be inferred
   */
  reader(vanilla: readonly string[], settings?: DialectSettings): DialectReader
  /** The node that holds all data: a root element or value; the document where it holds them itself; -1 for none. */
  root(tree: Tree): number
  /** Whether a document has one root, beside which only comments stand: then that is the same in all. */
  hasOneRoot: boolean
  /** The decoded name of an element, attribute, member, section or property; empty for other nodes. */
  nodeName(tree: Tree, node: number): string
  /** The decoded text of a leaf, outer blanks aside, in the form in which two of them are compared. */
  leafValue(tree: Tree, node: number): string
  /**
   * A text as it stands inside a leaf, between its quotes where it has any: escaped as the place needs it, of the
   * sort that the leaf has; undefined where the text cannot stand there.
   */
  encode(tree: Tree, node: number, text: string): string | undefined
  /** The sort of a leaf; undefined in formats in which all is text. */
  scalarSort(tree: Tree, node: number): ScalarSort | undefined
  /** The decoded text of a leaf as people would write it, without what tells its sort. */
  leafText(tree: Tree, node: number): string
  /** A character that an encoding lacks, as the format can write it; undefined where it has no way. */
  escape: ((character: string) => string) | undefined
  /** What a comment's text is as a source, to see whether it holds entries. @param among the kind of entry looked for */
  asSource(comment: string, among: Kind): CommentSource
  /**
   * How many comments, one behind the other, hold the entry that begins in one of them, as far as a first look
   * tells; 0 where none begins there.
   *
   * @param comments their texts without their marks
   * @param among the kind of entry looked for
   */
  entryLength(comments: readonly string[], from: number, among: Kind): number
  /** A source in which a text of nothing but comments stands, and what the format needs beside them. */
  amongComments(comments: string): string
  /** The text of a comment without its marks, blanks folded, in the form in which two are compared. */
  commentText(tree: Tree, node: number): string
  /**
   * What a source uses and no longer declares; undefined in formats without declarations.
   *
   * @param inputs the documents that the source was put together from, the first in which a thing is declared gives that
   */
  missing: ((made: ParseResult, inputs: readonly Tree[]) => MissingDeclaration[]) | undefined
  /** Whether names that differ by capitals alone are taken for one. */
  foldsCase: boolean
  /** What stands between two entries of a list beside blanks; empty where nothing does. */
  separator: string
  /** Whether a comment that ends at a line's end would swallow what follows it on that line. */
  lineComments: boolean
}
