/** So many names must have got one affix: what one name has before or behind another is chance. */
const LEAST_NAMES = 2
/** Without a letter a name is a number, which others judge. */
const LETTER = /\p{L}/u

/** Entries of a document by their names. */
type Named = ReadonlyMap<string, number>

/**
 * Entries of two documents that are named alike but for one text that all names of the other document have before or
 * behind them, or have lost there: `lamp` and `bell` are `sl-lamp` and `sl-bell`. Nothing is found where one name
 * stands in both documents, or where half of old's names have no partner.
 *
 * @returns their entries in old and in the other document
 */
export function affixedNames(old: Named, other: Named): [number, number][] {
  if ([...old.keys()].some((name) => other.has(name))) return []
  const tried = new Set<string>()
  const isEnough = (found: readonly unknown[]): boolean =>
    found.length >= LEAST_NAMES && found.length * 2 > old.size
  let untried = old.size
  for (const name of old.keys()) {
    // what more than half of the names got is found at one of the first half
    if (untried-- * 2 < old.size) break
    if (!LETTER.test(name)) continue
    for (const change of affixesOf(name, other)) {
      const { text, isBefore, isLost } = change
      const key = `${isBefore} ${isLost} ${text}`
      if (tried.has(key)) continue
      tried.add(key)
      const found = pairsBy(change, old, other)
      if (isEnough(found)) return found
    }
  }
  return []
}

/** A text that names got or lost, before them or behind them. */
interface Affix {
  text: string
  isBefore: boolean
  isLost: boolean
}

function affixesOf(name: string, others: Named): Affix[] {
  const found: Affix[] = []
  for (const other of others.keys()) {
    const isLost = other.length < name.length
    const [short, long] = isLost ? [other, name] : [name, other]
    const rest = long.length - short.length
    if (!LETTER.test(short)) continue
    if (long.endsWith(short)) found.push({ text: long.slice(0, rest), isBefore: true, isLost })
    if (long.startsWith(short)) found.push({ text: long.slice(-rest), isBefore: false, isLost })
  }
  return found
}

function pairsBy(affix: Affix, old: Named, other: Named): [number, number][] {
  return [...old].flatMap(([name, i]): [number, number][] => {
    const now = changedBy(affix, name)
    const j = now === undefined ? undefined : other.get(now)
    return j === undefined ? [] : [[i, j]]
  })
}

function changedBy({ text, isBefore, isLost }: Affix, name: string): string | undefined {
  if (!isLost) return isBefore ? text + name : name + text
  if (isBefore) return name.startsWith(text) ? name.slice(text.length) : undefined
  return name.endsWith(text) ? name.slice(0, -text.length) : undefined
}
