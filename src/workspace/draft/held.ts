import { EXIT, Failure } from '../failure.ts'
import { isHeldByOther } from '../io/lock.ts'
import type { StateLayout } from '../state/layout.ts'

/** @throws Failure where the draft of a variant stands on a screen of another process */
export function refuseHeld(layout: StateLayout, variant: string): void {
  if (!isHeldByOther(layout.draftHeld(variant))) return
  throw new Failure('draft/held', `the draft of ${variant} is being settled in another window`, {
    exit: EXIT.refused,
    hint: 'leave that window with q: what was answered there is kept; then run this again',
  })
}
