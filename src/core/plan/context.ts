import type { Span } from '../document/problem.ts'
import type { Side, Triple } from '../document/sides.ts'
import type { Thresholds } from '../document/thresholds.ts'
import type { UnitList } from '../document/unit-list.ts'
import type { Doc } from '../formats/doc.ts'
import type { Identities } from '../identity/identities.ts'
import type { Kind } from '../document/kind.ts'
import type { ValueCarry } from '../match/carry-values.ts'
import type { Ledger } from '../report/ledger.ts'
import type { MovedEntries } from './moved-entries.ts'
import type { Nodes, Recorder } from '../report/recorder.ts'
import type { Together } from './tied-keys.ts'
import type { Writer } from '../write/writer.ts'

/** Where in the file a merge is: the key so far, and the key without identities. */
export interface Where {
  key: string
  place: string
}

export interface MergeOptions {
  identities: Identities
  /** What a made line end is. */
  lineEnd: string
  /** Whether what only one of new and mine has is a question, too: there is no old to tell. */
  everyDifference: boolean
  /** Places where the order of entries matters: there a clash of orders is a conflict. */
  ordered: ReadonlySet<string>
  /** Places whose value is a list, and what separates its items. */
  lists: ReadonlyMap<string, string>
  /** Groups of places whose keys only make sense together. */
  together: readonly (readonly string[])[]
  /** A key whose places are told with its change. */
  explain: string | undefined
  /** Entries that stand in another container than in old. */
  moved: MovedEntries
  /** From which sizes on shorter ways to the same result are taken. */
  thresholds: Thresholds
}

/** Whose text of a value stands, or the text that was made from all. */
export interface Choice {
  side: Side
  made?: string
}

/** The units of one container in the documents that have it. */
export interface ContentLists {
  lists: Triple<UnitList | undefined>
  /** The same with a unit for each entry, where some stand for runs of entries. */
  apart?: (() => Triple<UnitList | undefined>) | undefined
}

/** One container as a list of units. */
export interface ListInput extends ContentLists {
  nodes: Nodes
  /** Where the container's opening begins and its closing ends; undefined for attributes, which have neither. */
  frames: Triple<Span | undefined> | undefined
  where: Where
  /** The kind of the container; `Attribute` for the attributes of an element. */
  kind: Kind
  /** Whose name an element's close tag gets. */
  closeName?: { side: Side; node: number }
}

/** The merge of one document, as its parts see it. */
export interface MergeContext {
  readonly docs: Triple<Doc>
  /** Which of the documents there are: a file that both brought has no old. */
  readonly present: Triple<boolean>
  readonly ledger: Ledger
  readonly options: MergeOptions
  readonly writer: Writer
  readonly record: Recorder
  readonly together: Together
  /** Carries values alone: it matches lists, and proves them. */
  readonly values: ValueCarry
  /** One step of nesting in each document, and in the result. */
  readonly steps: { inputs: Triple<string>; result: string }
  /** Whether the last line written is a comment that belongs to no entry: what follows must not take it over. */
  endsInFreeComment: boolean
  /** Merges one entry that new and mine have (old may lack it). */
  node(nodes: Nodes, where: Where): void
  /** Merges what a node holds. */
  descend(nodes: Nodes, where: Where): void
  /** The text of a node in one of the documents; undefined where it is not there. */
  slice(side: Side, nodes: Nodes): string | undefined
  /** The offset at which a node starts, and the one after it. */
  start(side: Side, node: number): number
  end(side: Side, node: number): number
  /** Decides a value by its decoded forms; gives the side whose text stands. */
  value(values: Triple<string | undefined>, raw: Triple<string>, nodes: Nodes, where: Where): Choice
  /** Writes a stretch that is form alone, chosen three-way. */
  form(spans: Triple<Span | undefined>): void
  /** Remembers whether what was written ends in a comment that belongs to no entry. */
  wrote(side: Side, node: number): void
  contentLists(nodes: Nodes, where: Where): ContentLists
  /** Writes an element's close tag from one side, with another name where the element was renamed. */
  writeClose(side: Side, node: number, name: string | undefined): void
  /** The place of what a node holds: its own name added, where it has one that is part of a place. */
  placeInside(side: Side, node: number, place: string): string
}
