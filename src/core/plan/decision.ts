import { MINE, NEW } from '../document/sides.ts'
import type { ListPlan, Telling } from './plan.ts'
import type { Settled, ToldConflict, ToldOrder, ToldStretch } from './telling.ts'

/** What somebody decided for a key that is a conflict. */
export type Decision = {
  key: string
  /** As reports have it: `decision`, `rule 2`. */
  by: string
} & (
  | { take: 'vanilla' | 'mine' | 'both' }
  /** A value: escaped as its place needs it, of the sort that it has there. */
  | { take: 'value'; text: string }
  /** Text of the file as it stands. */
  | { take: 'source'; text: string }
  /** The key of the entry to which the operator's edits go. */
  | { take: 'onto'; key: string; to: string }
)

/** A question of a plan. */
export type Open = ToldConflict | ToldStretch | ToldOrder

/** Whether something is a question that nobody has answered. */
export function isOpen(telling: Telling): telling is Open {
  const isQuestion =
    telling.tell === 'conflict' || telling.tell === 'stretch' || telling.tell === 'order'
  return isQuestion && telling.settled === undefined
}

/** Whether an entry stands in another container now, and is decided for the side that dropped it. */
export function dropsElsewhere(
  { matching }: ListPlan,
  cls: number,
  open: Open,
  { take }: Decision,
): boolean {
  if (open.tell !== 'conflict' || matching.unit(NEW, cls) >= 0 || matching.unit(MINE, cls) >= 0)
    return false
  return take === (open.kind === 'gone-in-mine' ? 'mine' : 'vanilla')
}

/** What a decision says of a conflict that it settles. */
export function settledBy(decision: Decision): Settled {
  const { by } = decision
  switch (decision.take) {
    case 'vanilla':
    case 'mine':
      return { by, stands: decision.take }
    case 'value':
    case 'source':
      return { by, stands: { text: decision.text } }
    case 'onto':
      return { by, stands: 'vanilla' }
    case 'both':
      return { by, stands: 'both' }
  }
}
