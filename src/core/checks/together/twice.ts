import { gather } from '../../document/gather.ts'
import { isCustomary } from '../../identity/candidates.ts'
import { keyPattern, keySegments } from '../../keys/key.ts'
import { MINE, NEW } from '../../document/sides.ts'
import type { TogetherInputs } from './inputs.ts'
import type { MadeKey } from './rows.ts'
import { valuesMade } from './rows.ts'

/** A name that both sides gave to an entry of a file, each to another, and that no input has twice. */
export interface Twice {
  path: string
  value: string
  /** The keys at which the name stands: what mine brought, and what vanilla did. */
  mine: string
  vanilla: string
}

/** Names that stand twice in the result of a file, and once at most in each of the inputs. */
export function twiceIn(made: readonly MadeKey[], inputs: TogetherInputs): Twice[] {
  const brought = made.filter(({ kind, result }) => kind !== 'removed' && result !== null)
  const [mine, vanilla] = [named(brought, 'mine'), named(brought, 'vanilla')]
  return [...mine].flatMap(([value, ones]) => {
    const others = vanilla.get(value) ?? []
    return ones.flatMap((one) => others.flatMap((other) => pairsOf(value, one, other, inputs)))
  })
}

/** What brought a value, by that value. */
function named(brought: readonly MadeKey[], maker: MadeKey['maker']): Map<string, MadeKey[]> {
  const byValue = new Map<string, MadeKey[]>()
  for (const each of brought) {
    if (each.maker !== maker) continue
    for (const value of valuesMade(each)) if (value !== '') gather(byValue, value, each)
  }
  return byValue
}

function pairsOf(value: string, mine: MadeKey, vanilla: MadeKey, inputs: TogetherInputs): Twice[] {
  const { path } = mine
  const keys = (side: typeof MINE | typeof NEW, entry: string): string[] =>
    inputs.inside(side, path, entry, value).filter(isName)
  return keys(MINE, mine.key).flatMap((one) =>
    keys(NEW, vanilla.key)
      .filter((other) => keyPattern(other) === keyPattern(one) && other !== one)
      .filter(() => isUnique(path, keyPattern(one), inputs))
      .map((other) => ({ path, value, mine: one, vanilla: other })),
  )
}

/** Whether a key is one under which entries have their names. */
function isName(key: string): boolean {
  return isCustomary(keySegments(key).at(-1)?.name ?? '')
}

/** Whether no value of a pattern stands twice in an input; few tell nothing. */
function isUnique(path: string, pattern: string, inputs: TogetherInputs): boolean {
  let most = 0
  const holds = inputs.inAll((side) => {
    const values = inputs.at(side, path, pattern).map(({ value }) => value)
    most = Math.max(most, values.length)
    return new Set(values).size === values.length
  })
  const isId = /ids?$|key$|code$/i.test(keySegments(pattern).at(-1)?.name ?? '')
  return holds && most >= (isId ? LEAST_IDS : LEAST_NAMES)
}

/** So many ids that are all different are a rule; so many names, which may be so by chance. */
const LEAST_IDS = 2
const LEAST_NAMES = 12
