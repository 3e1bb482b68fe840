import { gather } from '../document/gather.ts'

/** So many names must have got one affix: what one name has before or behind another is chance. */
const LEAST_NAMES = 2
/** Without a letter a name is a number, which others judge. */
const LETTER = /\p{L}/u

/** Entries of a document by their names. */
type Named = ReadonlyMap<string, number>
/** An entry of old, and one of the other document. */
type Pair = [i: number, j: number]

/**
 * Entries of two documents that are named alike but for one text that all names of the other document have before or
 * behind them, or have lost there: `lamp` and `bell` are `sl-lamp` and `sl-bell`. Nothing is found where one name
 * stands in both documents, or where half of old's names have no partner.
 *
 * @returns their entries in old and in the other document, in the order of old
 */
export function affixedNames(old: Named, other: Named): Pair[] {
  if ([...old.keys()].some((name) => other.has(name))) return []
  const got = byAffix(other, old).map((pairs) => pairs.map(([j, i]): Pair => [i, j]))
  const found = [...got, ...byAffix(old, other)].find(
    ({ length }) => length >= LEAST_NAMES && length * 2 > old.size,
  )
  return (found ?? []).sort(([a], [b]) => a - b)
}

/** Entries whose names are those of others with something before or behind them: all with one text together. */
function byAffix(longer: Named, shorter: Named): [number, number][][] {
  const found = new Map<string, [number, number][]>()
  for (const [name, one] of longer)
    for (let cut = 1; cut < name.length; cut++) {
      const [head, tail] = [name.slice(0, cut), name.slice(cut)]
      for (const [rest, affix] of [
        [tail, `${head} before`],
        [head, `${tail} behind`],
      ] as const) {
        const another = shorter.get(rest)
        if (another !== undefined && LETTER.test(rest)) gather(found, affix, [one, another])
      }
    }
  return [...found.values()]
}
