import type { Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'

/**
 * The three-way merge of values that each hold a list, such as `salvor, diver`: the items of one side without those
 * that the other dropped, and each that the other added behind the item it follows there. Items are told apart by
 * their text. The order is mine's, or vanilla's where only vanilla changed that.
 *
 * @param separator what stands between items, blanks aside; a blank for lists that only blanks part
 * @returns undefined where text does not tell the items apart, or both changed their order
 */
export function mergeListValue(values: Triple<string>, separator: string): string | undefined {
  const lists = triple((side) => itemsOf(values[side], separator))
  if (lists.some((items) => new Set(items).size < items.length)) return undefined
  const [old, fresh, mine] = lists
  const [byVanilla, byMine] = [isReordered(old, fresh), isReordered(old, mine)]
  if (byVanilla && byMine && isReordered(fresh, mine)) return undefined
  const [kept, other] = byVanilla && !byMine ? [fresh, mine] : [mine, fresh]
  const result = kept.filter((item) => other.includes(item) || !old.includes(item))
  let previous = -1
  for (const item of other) {
    if (!old.includes(item) && !kept.includes(item)) result.splice(previous + 1, 0, item)
    const at = result.indexOf(item)
    if (at >= 0) previous = at
  }
  return result.join(joinerOf([values[MINE], values[NEW], values[OLD]], separator))
}

/** Whether what two lists share stands in another order. */
function isReordered(old: readonly string[], items: readonly string[]): boolean {
  const before = old.filter((item) => items.includes(item))
  const after = items.filter((item) => old.includes(item))
  return before.some((item, at) => item !== after[at])
}

function itemsOf(value: string, separator: string): string[] {
  const mark = separator.trim()
  const parts = value.split(mark === '' ? /\s+/ : mark)
  return parts.map((part) => part.trim()).filter((part) => part !== '')
}

/** The separator with the blanks that stand around it in the first value that has it. */
function joinerOf(values: readonly string[], separator: string): string {
  const escaped = separator.trim().replace(/[\\^$.*+?()[\]{}|]/g, '\\$&')
  const pattern = new RegExp(`(?<=\\S)(\\s*${escaped === '' ? '\\s' : escaped}\\s*)(?=\\S)`)
  for (const value of values) {
    const joiner = pattern.exec(value)?.[1]
    if (joiner !== undefined) return joiner
  }
  return separator
}
