import type { Side, Triple } from './sides.ts'
import { MINE, NEW, OLD } from './sides.ts'

/**
 * The three-way choice for what cannot be in conflict: where two agree, the third; where all differ,
 * mine. `undefined` is what an input lacks; what all lack gives undefined.
 */
export function pickSide<T>(values: Triple<T | undefined>): Side | undefined {
  const [old, fresh, mine] = values
  if (mine === undefined) return fresh !== undefined ? NEW : old !== undefined ? OLD : undefined
  if (fresh === undefined || fresh === mine) return MINE
  return old !== undefined && old === mine ? NEW : MINE
}

/** The value that `pickSide` chooses. */
export function pick<T>(values: Triple<T | undefined>): T | undefined {
  const side = pickSide(values)
  return side === undefined ? undefined : values[side]
}
