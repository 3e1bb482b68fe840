import type { Side, Triple } from '../document/sides.ts'
import type { Doc } from '../formats/doc.ts'
import { shownValue } from '../formats/shown-value.ts'
import type { Plan } from '../plan/plan.ts'

/**
 * What a report shows of what becomes of an entry: as much as it would show of the entry of one side.
 *
 * @param textOf gives the text of what was put together
 */
export function shownPlan(
  plan: Plan,
  docs: Triple<Doc>,
  [side, node]: readonly [Side, number],
  textOf: (plan: Plan) => string,
): string {
  if (plan.do === 'take') return shownValue(docs[plan.side], plan.nodes[plan.side])
  if (plan.do === 'member') return textOf(plan.value)
  const shown = shownValue(docs[side], node)
  const isWhole = shown === docs[side].slice(node).trimEnd()
  return isWhole ? textOf(plan).trimEnd() : shown
}
