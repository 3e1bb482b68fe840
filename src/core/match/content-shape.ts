/** What an element holds, attributes aside: nothing, a text alone, or elements. */
export type ContentShape = 'empty' | 'text' | 'branch'

/**
 * What an element holds that new and mine have; `clash` where one side has a text and the other elements, or both
 * have a text in the place of elements. What is empty suits either.
 */
export function shapeOfBoth(
  old: ContentShape | undefined,
  fresh: ContentShape | undefined,
  mine: ContentShape | undefined,
): ContentShape | 'clash' | undefined {
  const both = fresh === 'empty' ? mine : mine === 'empty' || fresh === mine ? fresh : 'clash'
  return both === 'text' && old === 'branch' ? 'clash' : both
}
