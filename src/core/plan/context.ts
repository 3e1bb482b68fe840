import type { Side, Triple } from '../document/sides.ts'
import type { Thresholds } from '../document/thresholds.ts'
import type { Doc } from '../formats/doc.ts'
import type { Identities } from '../identity/identities.ts'
import type { ValueCarry } from '../match/carry-values.ts'
import type { MovedEntries } from './moved-entries.ts'
import type { Choice, ContentLists, Plan, Telling, Where } from './plan.ts'
import type { Nodes } from './telling.ts'
import type { TiedKeys } from './tied-keys.ts'
import type { Wrapping, Wrappings } from './wrappings.ts'

export interface PlanOptions {
  identities: Identities
  /** Whether what only one of new and mine has is a question, too: there is no old to tell. */
  everyDifference: boolean
  /** Places where the order of entries matters: there a clash of orders is a conflict. */
  ordered: ReadonlySet<string>
  /** Places whose value is a list, and what separates its items. */
  lists: ReadonlyMap<string, string>
  /** Groups of places whose keys only make sense together. */
  together: readonly (readonly string[])[]
  /** Comments that new and mine both brought, once each, and that are two. */
  apart: ReadonlySet<string>
  /** Entries that stand in another container than in old. */
  moved: MovedEntries
  /** Containers that one side put around entries, and in which the others have them, too: by their keys. */
  wrapped: ReadonlyMap<string, Wrapping>
  /** From which sizes on shorter ways to the same result are taken. */
  thresholds: Thresholds
}

/** What is chosen of a value, and what is to be told of that. */
export interface ValueChoice {
  choice: Choice
  told: readonly Telling[]
}

/** The planner of one document, as its parts see it. */
export interface PlanContext {
  readonly docs: Triple<Doc>
  readonly options: PlanOptions
  readonly tied: TiedKeys
  /**
   * Whether mine has brought these comments of new's, too, each document once, so that they are one, wherever either has
   * them. Else a carry repeated would bring once more what it put elsewhere.
   */
  areBroughtByBoth(comments: readonly number[]): boolean
  /** Carries values alone: it matches lists, and proves them. */
  readonly values: ValueCarry
  readonly wrappings: Wrappings
  /** Plans one entry that new and mine have (old may lack it). */
  node(nodes: Nodes, where: Where): Plan
  /** Plans what a node holds. */
  inside(nodes: Nodes, where: Where): Plan
  /** The text of a node in one of the documents; undefined where it is not there. */
  slice(side: Side, nodes: Nodes): string | undefined
  /** Decides a value by its decoded forms. */
  value(
    values: Triple<string | undefined>,
    raw: Triple<string>,
    nodes: Nodes,
    where: Where,
  ): ValueChoice
  contentLists(nodes: Nodes, where: Where): ContentLists
}
