import { gather } from '../../document/gather.ts'
import { isCustomary } from '../../identity/candidates.ts'
import { keyPattern, keySegments } from '../../keys/key.ts'
import { MINE, NEW, OLD } from '../../document/sides.ts'
import { answeredOnce } from './answered-once.ts'
import type { TogetherInputs } from './inputs.ts'
import type { MadeKey } from './rows.ts'

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
  // most often no name is on both sides, and then no document has to be gone through
  const inMine = namesIn(made, 'mine')
  if (![...namesIn(made, 'vanilla')].some((name) => inMine.has(name))) return []
  const vanilla = namesBy(made, 'vanilla', inputs)
  const isRule = answeredOnce(
    (_: string, pattern: string) => pattern,
    (path, pattern) => isUnique(path, pattern, inputs),
  )
  return [...namesBy(made, 'mine', inputs)].flatMap(([value, ones]) =>
    ones.flatMap(({ path, key }) =>
      (vanilla.get(value) ?? [])
        .filter((other) => keyPattern(other.key) === keyPattern(key) && other.key !== key)
        .filter(() => isRule(path, keyPattern(key)))
        .map((other) => ({ path, value, mine: key, vanilla: other.key })),
    ),
  )
}

/** What looks like a name in what a side brought, as its source is written. */
function namesIn(made: readonly MadeKey[], maker: MadeKey['maker']): Set<string> {
  const names = new Set<string>()
  for (const { maker: by, kind, key, result } of made) {
    if (by !== maker || kind === 'removed' || result === null) continue
    if (kind === 'changed') {
      if (isName(key)) names.add((VALUE.exec(result)?.[0] ?? '').trim())
    } else
      for (const [, name = '', value = ''] of result.matchAll(NAMED))
        if (isCustomary(name)) names.add(value.trim())
  }
  return names
}

/** A name and the value behind it: `id="a"`, `"id": "a"`, `<id>a<`, `Id=a`. */
const NAMED = /([\w-]+)["']?\s*[=:>]\s*["']?([^"'<>\r\n,;]*)/g
/** As much of a value as `NAMED` takes in. */
const VALUE = /^[^"'<>\r\n,;]*/

interface Named {
  path: string
  key: string
}

/** The keys at which a side gave names, by the name. */
function namesBy(
  made: readonly MadeKey[],
  maker: MadeKey['maker'],
  inputs: TogetherInputs,
): ReadonlyMap<string, Named[]> {
  const names = new Map<string, Named[]>()
  const side = maker === 'mine' ? MINE : NEW
  for (const { maker: by, path, key, kind, was, result } of made) {
    if (by !== maker || kind === 'removed' || result === null) continue
    const texts = kind === 'changed' ? [{ key, text: result }] : inputs.textsIn(side, path, key)
    // of an entry that has another name all else was there before
    const before = was === undefined ? [] : [...inputs.textsIn(OLD, path, was)]
    const known = new Map(before.map((each) => [each.key.slice(was?.length), each.text]))
    for (const { key: inner, text } of texts)
      if (text !== '' && isName(inner) && known.get(inner.slice(key.length)) !== text)
        gather(names, text, { path, key: inner })
  }
  return names
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
