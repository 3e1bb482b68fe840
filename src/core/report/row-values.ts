/** What stands at a key in each document, as text of the source; null where nothing does. */
export interface Values {
  old: string | null
  new: string | null
  mine: string | null
  result: string | null
}

/** Longer values stand in a report by their beginning and their end, so many code units of each. */
const LONGEST = 20_000
const KEPT = 1000

/** How long values are, in UTF-16 code units, that stand in a row by their beginning and end alone. */
export type Cut = Partial<Record<keyof Values, number>>

/** Cuts the long values of a row in place; gives how long they were, or undefined where none was long. */
export function cutValues(row: Values): Cut | undefined {
  let cut: Cut | undefined
  for (const side of ['old', 'new', 'mine', 'result'] as const) {
    const value = row[side]
    if (value === null || value.length <= LONGEST) continue
    cut ??= {}
    cut[side] = value.length
    row[side] = `${value.slice(0, KEPT)} … ${value.slice(-KEPT)}`
  }
  return cut
}
