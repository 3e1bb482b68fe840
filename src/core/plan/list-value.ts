import type { Triple } from '../document/sides.ts'
import { triple } from '../document/sides.ts'

/**
 * The three-way merge of values that each hold a list, such as `salvor, diver`: mine's items without
 * those that vanilla dropped, and each that vanilla added behind the item it follows there. Items are
 * told apart by their text, so nothing can be in conflict.
 *
 * @param separator what stands between items, blanks aside; a blank for lists that only blanks part
 */
export function mergeListValue(values: Triple<string>, separator: string): string {
  const [old, fresh, mine] = triple((side) => itemsOf(values[side], separator))
  const result = mine.filter((item) => fresh.includes(item) || !old.includes(item))
  let previous = -1
  for (const item of fresh) {
    if (!old.includes(item) && !mine.includes(item)) result.splice(previous + 1, 0, item)
    const at = result.indexOf(item)
    if (at >= 0) previous = at
  }
  return result.join(joinerOf([values[2], values[1], values[0]], separator))
}

function itemsOf(value: string, separator: string): string[] {
  const parts = separator.trim() === '' ? value.split(/\s+/) : value.split(separator)
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
