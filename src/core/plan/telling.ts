import type { Problem } from '../document/problem.ts'
import type { Side, Triple } from '../document/sides.ts'

/** The node of one entry in old, new and mine; -1 where it is not there. */
export type Nodes = Triple<number>

export type ChangeSide = 'vanilla' | 'mine' | 'both'
export type ChangeKind = 'added' | 'removed' | 'changed' | 'moved' | 'renamed'
export type InputName = 'old' | 'new' | 'mine'

/** What both sides did to one key, so that somebody has to decide. */
export const CONFLICT_KINDS = [
  'two-values',
  'gone-in-vanilla',
  'gone-in-mine',
  'two-new',
  'shape',
  'order',
  'lines',
  'file',
] as const
export type ConflictKind = (typeof CONFLICT_KINDS)[number]

/** A problem, and in which input it stands. */
export interface InputProblem extends Problem {
  input: InputName
  /** Of a comment of vanilla's that may be lost: the whole of it. */
  lost?: string
}

/** What decided a conflict, and what stands there. */
export interface Settled {
  /** `decision`, `rule N` or `take: POLICY`, as reports have it. */
  by: string
  stands: 'vanilla' | 'mine' | 'both' | { text: string }
}

/** A change whose values are no nodes: the name of a root, a value that was made from all three. */
export interface ToldValues {
  tell: 'values'
  side: ChangeSide
  kind: ChangeKind
  key: string
  was?: string
  values: Triple<string | null>
  result: string | null
}

/** A key that both sides changed differently. Mine stands. */
export interface ToldConflict {
  tell: 'conflict'
  /** Undefined while it is open. */
  settled?: Settled
  kind: ConflictKind
  key: string
  nodes: Nodes
  /** The comment in which an entry stands that a side has no more. */
  commentedOut?: { side: Side; comment: number }
  /** The key of what an entry that a side dropped may be there. */
  perhaps?: string | undefined
  /** The keys that are one question with this one, itself among them. */
  tied?: readonly string[]
}

/** A stretch of a list that both sides rewrote: what stands there in each document, in order. */
export interface ToldStretch {
  tell: 'stretch'
  /** Undefined while it is open. */
  settled?: Settled
  key: string
  nodes: Triple<readonly number[]>
}

/** Both re-ordered where order matters: the names of the entries in each order. */
export interface ToldOrder {
  tell: 'order'
  /** Undefined while it is open. */
  settled?: Settled
  key: string
  /** The container. */
  nodes: Nodes
  orders: Triple<string>
}

/** Something to know of an input, whatever stands in the result. */
export interface ToldProblem {
  tell: 'problem'
  problem: InputProblem
}

/** Something of an input that is not in the result, where that was put together. */
export interface ToldLoss {
  tell: 'loss'
  problem: InputProblem
}
