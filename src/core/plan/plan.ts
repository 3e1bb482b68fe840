import type { Kind } from '../document/kind.ts'
import type { Span } from '../document/problem.ts'
import type { Side, Triple } from '../document/sides.ts'
import type { UnitList } from '../document/unit-list.ts'
import type { DormantEntries } from '../match/dormant.ts'
import type { Matching } from '../match/matching.ts'
import type { Moves } from '../match/order.ts'
import type {
  ChangeKind,
  ChangeSide,
  Nodes,
  ToldConflict,
  ToldLoss,
  ToldOrder,
  ToldProblem,
  ToldStretch,
  ToldValues,
} from './telling.ts'

/*
 * The decision of a carry as plain data: for each node whose text stands, and what is to be told of it.
 * The text is written from it (`core/write`), and the report is made from it (`core/report`); neither
 * decides anything. What is equal in all three documents, or taken from one, is one `take`.
 */

/** What becomes of one node that new and mine have. */
export type Plan = TakePlan | LeafPlan | MemberPlan | ElementPlan | ListPlan | MadePlan

/** The whole node as one document has it. */
export interface TakePlan {
  do: 'take'
  side: Side
  nodes: Nodes
  told: readonly Telling[]
}

/** A node whose text somebody wrote. */
export interface MadePlan {
  do: 'made'
  text: string
  told: readonly Telling[]
}

/** Whose text of a value stands. */
export interface Choice {
  side: Side
  /** The text that stands between its quotes instead, or instead of it and its quotes. */
  made?: string
  source?: string
}

/** A value with its name: a scalar, an attribute, a property, a text. */
export interface LeafPlan {
  do: 'leaf'
  nodes: Nodes
  /** Whose form the name and what stands before the value have. */
  lead: Side
  value: Choice
  told: readonly Telling[]
}

/** A member of a JSON object: its name, and its value. */
export interface MemberPlan {
  do: 'member'
  nodes: Nodes
  lead: Side
  value: Plan
  /** Comments of new's between name and value that are not in the result. */
  lost: readonly Telling[]
}

/** An XML element that is put together. */
export interface ElementPlan {
  do: 'element'
  nodes: Nodes
  /** Whose name it has: names differ in roots alone. */
  name: Side
  /** The attributes, or whose they are where all have the same text of them. */
  attributes: ListPlan | Side
  content: ListPlan | TextPlan | WholeContent
  told: readonly Telling[]
}

/** The content of an element that is its text. */
export interface TextPlan {
  do: 'text'
  nodes: Nodes
  value: Choice
  /** Whose blanks stand before and behind the text, and whose close tag; undefined where the chosen one has none. */
  form: { before: Side; after: Side; close: Side } | undefined
  told: readonly Telling[]
}

/** The content of an element as one document has it: text here, child elements there. */
export interface WholeContent {
  do: 'content'
  side: Side
  told: readonly Telling[]
}

/** The units of one container in the documents that have it. */
export interface ContentLists {
  lists: Triple<UnitList | undefined>
  /** The same with a unit for each entry, where some stand for runs of entries. */
  apart?: (() => Triple<UnitList | undefined>) | undefined
  /** The entries that stand in comments; undefined where there are none. */
  dormant?: DormantEntries | undefined
}

/** One container as a list of units. */
export interface ListInput extends ContentLists {
  nodes: Nodes
  /** Where the container's opening begins and its closing ends; undefined for attributes, which have neither. */
  frames: Triple<Span | undefined> | undefined
  /** Where in the file it is: the key so far, and the key without identities. */
  where: Where
  /** The kind of the container; `Attribute` for the attributes of an element. */
  kind: Kind
  /** Whose name an element's close tag gets. */
  closeName?: { side: Side; node: number }
}

/** Where in the file a node is: the key so far, and the key without identities. */
export interface Where {
  key: string
  place: string
}

/** A container: which entries the result has, in which order, and what becomes of each. */
export interface ListPlan {
  do: 'list'
  input: ListInput
  matching: Matching
  moves: Moves
  /** The classes of which something is in the result, in its order. */
  order: readonly number[]
  /** What becomes of each class of the matching. */
  entries: readonly EntryPlan[]
  frame: FramePlan | undefined
  /** Told behind what is told of the entries' fates. */
  told: readonly Telling[]
}

/** What becomes of an entry. */
export type Fate =
  'merged' | 'vanilla-added' | 'mine-added' | 'kept-against-vanilla' | 'only-comments' | 'out'

/** What becomes of an entry, and what is told of that. */
export interface EntryFate {
  fate: Fate
  told: readonly Telling[]
  /** Of an entry that stands in comments in some document: the side as which it stands. */
  stands?: Side
}

/** What becomes of the entries of one class. */
export interface EntryPlan {
  fate: Fate
  /** What is told of its fate. */
  fateTold: readonly Telling[]
  /** What is told of it besides, in its place. */
  told: readonly Telling[]
  /** Of a merged entry: the side whose whole unit stands, comments and separator included. */
  whole: Side | undefined
  /** Of a merged entry that is put together: its parts. */
  parts: UnitParts | undefined
  /** Whether what is inside is told by the row of the entry, so that it has no rows of its own. */
  isOneRow: boolean
}

/** The parts of a unit, each chosen by itself. */
export interface UnitParts {
  /** The unit in each document, -1 where there is none. */
  units: Triple<number>
  /** Whose blanks stand before the unit. */
  lead: Lead
  /** The comments above the node, and what stands between them and the node; of a comment all that it is. */
  own: readonly Piece[]
  /** Undefined for a comment, and for an entry that stands in one. */
  entry: Plan | undefined
  /** Whose text follows the node. */
  tail: Side
  /** Vanilla's comments that are not in the result: of those above, and of those behind. */
  lost: readonly Telling[]
}

/** The blanks before a unit: line ends, and the indentation behind the last of them. */
export interface Lead {
  lines: Side
  indent: Side
}

/** A stretch of one document, `[start, end)` in UTF-16 code units, or a text that was made. */
export type Piece = Stretch | { made: string }

export interface Stretch extends Span {
  /** Whether new and mine have it in one form, so that it is not re-indented. */
  isShared?: boolean
  side: Side
}

/** The opening and the closing of a container. */
export interface FramePlan {
  /** The opening; of a container without entries the whole. */
  open: Stretch | undefined
  /** Whether the opening is the whole container. */
  isWhole: boolean
  /** Whose closing stands. */
  close: Side
  /** Whether the last entry has a separator behind it. */
  hasTrailingSeparator: boolean
  told: readonly Telling[]
}

// What is told

/** A key in which one side, or both in the same way, differ from old. */
export interface ToldChange {
  tell: 'change'
  side: ChangeSide
  kind: ChangeKind
  key: string
  nodes: Nodes
  /** The side whose value stands; undefined where nothing does. */
  from: Side | undefined
  /** The class of the list that the row is of, where what becomes of the entry says what stands. */
  cls?: number
  /** The key that it had, where it was renamed. */
  was?: string
  /** Keys inside it that are told by this row: the identity of a renamed entry. */
  covers?: readonly string[]
}

/** What is inside a node that is taken as a whole: nothing of it is written. */
export interface ToldInside {
  tell: 'inside'
  plan: Plan
}

/** One thing that is to be told of a node. */
export type Telling =
  | ToldChange
  | ToldValues
  | ToldConflict
  | ToldStretch
  | ToldOrder
  | ToldProblem
  | ToldLoss
  | ToldInside

export const NOTHING_TOLD: readonly Telling[] = []
