import type { Span } from './problem.ts'
import type { Tree } from './tree.ts'
import { contentUnits } from './unit-list.ts'

/**
 * What has to go from a source so that a container holds some of its entries no more: their units, and the
 * separator of the entry that is the last from then on, where the last had none.
 *
 * @param separator the mark between entries, or ''
 */
export function cutUnits(
  tree: Tree,
  container: number,
  separator: string,
  entries: ReadonlySet<number>,
): Span[] {
  const list = contentUnits(tree, container, separator)
  const units = list.nodes.map((_, unit) => unit).filter((unit) => !list.isComment(unit))
  const isCut = (unit: number): boolean => entries.has(list.node(unit))
  const cuts = units.filter(isCut).map((unit) => ({ start: list.start(unit), end: list.end(unit) }))
  const last = units.at(-1)
  if (last === undefined || !isCut(last) || list.separator(last) >= 0) return cuts
  const staying = units.filter((unit) => !isCut(unit)).at(-1)
  const mark = staying === undefined ? -1 : list.separator(staying)
  return mark < 0 ? cuts : [...cuts, { start: mark, end: mark + separator.length }]
}
