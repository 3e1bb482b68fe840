import { asNumber } from '../../document/as-number.ts'
import { gather } from '../../document/gather.ts'
import { MINE, NEW } from '../../document/sides.ts'
import type { Side } from '../../document/sides.ts'
import { identitiesIn, keyPattern, keySegments, parentOf, unquoteName } from '../../keys/key.ts'
import type { FileReport } from '../../report/report.ts'
import { answeredOnce } from './answered-once.ts'
import type { TogetherInputs } from './inputs.ts'
import type { MadeKey, Maker } from './rows.ts'
import { otherOf, valuesMade } from './rows.ts'

/** A name of an entry or a file that one side took away, where the other came to refer to the name. */
export interface Dangling {
  path: string
  key: string
  value: string
  /** Who took away what the value names. */
  gone: Maker
  /** What went: `salvage/finds.xml: find[oakum]`, or the path of a file. */
  what: string
}

/** What went, and how names of such things stand in an input. */
interface Gone {
  what: string
  /** What kind of thing: things of one kind are known by the same names. */
  kind: string
  maker: Maker
  /** All names of things of the kind that there are in an input. */
  known: (side: Side) => ReadonlySet<string>
  /** Where the thing is defined; a value there is no reference. */
  definedAt: { path: string; keys: readonly string[] } | undefined
}

/** References of the result that lead nowhere, though in each input all of their kind lead somewhere. */
export function danglingIn(
  files: readonly FileReport[],
  made: readonly MadeKey[],
  inputs: TogetherInputs,
): Dangling[] {
  const gone = new Map<string, Gone[]>()
  addEntries(files, made, inputs, gone)
  addFiles(files, inputs, gone)
  const takers = new Set([...gone.values()].flat().map(({ maker }) => maker))
  const found = new Map<string, Dangling>()
  const isReferenceTo = answeredOnce(
    ({ kind }: Gone, path: string, pattern: string) => [kind, path, pattern].join('\0'),
    ({ known }, path, pattern) => isReference(path, pattern, known, inputs),
  )
  for (const each of made) {
    if (each.kind === 'removed' || !takers.has(otherOf(each.maker))) continue
    for (const value of valuesOf(each, inputs))
      for (const thing of gone.get(value) ?? [])
        for (const dangling of referencesTo(thing, value, each, { inputs, isReferenceTo }))
          found.set(`${dangling.path}\0${dangling.key}`, dangling)
  }
  return [...found.values()]
}

/** The values that came with a change; of a whole file all that it has. */
function valuesOf(made: MadeKey, inputs: TogetherInputs): Iterable<string> {
  return made.key === '' ? inputs.values(sideOf(made.maker), made.path) : valuesMade(made)
}

function sideOf(maker: Maker): Side {
  return maker === 'mine' ? MINE : NEW
}

/** Entries that one side removed or renamed, by what named them. */
function addEntries(
  files: readonly FileReport[],
  made: readonly MadeKey[],
  inputs: TogetherInputs,
  gone: Map<string, Gone[]>,
): void {
  const identities = new Map(files.map(({ path, reading }) => [path, reading?.identities]))
  const idOf = (path: string, key: string): string =>
    [path, keyPattern(parentOf(key)), namedBy(key)?.name].join('\0')
  // what came back under the same name elsewhere is not gone
  const there = new Set(
    made.filter(({ kind }) => kind !== 'removed').map(({ path, key }) => idOf(path, key)),
  )
  for (const { path, key, maker, kind, was, result } of made) {
    const left = kind === 'removed' && result === null ? key : kind === 'renamed' ? was : undefined
    const named = left === undefined ? undefined : namedBy(left)
    if (left === undefined || named === undefined || there.has(idOf(path, left))) continue
    if (!isTelling(named.name)) continue
    const pattern = keyPattern(left)
    const identity = identities.get(path)?.get(pattern.replaceAll('[*]', ''))
    if (named.by === 'identity' && identity === undefined) continue
    const sort = named.by === 'identity' ? pattern : `in ${parentOf(left)}`
    const known = (side: Side): ReadonlySet<string> =>
      named.by === 'identity'
        ? new Set(inputs.at(side, path, pattern).flatMap((each) => namedBy(each.key)?.name ?? []))
        : inputs.namesIn(side, path, parentOf(left))
    const definedAt = (identity ?? '').split('|').map((part) => `${pattern}/${part.trim()}`)
    gather(gone, named.name, {
      what: `${path}: ${left}`,
      kind: `${path}\0${sort}`,
      maker,
      known,
      definedAt: { path, keys: definedAt },
    })
  }
}

/** What names the entry of a key: its identity, or its own name, where it is a section or a member. */
function namedBy(key: string): { by: 'identity' | 'name'; name: string } | undefined {
  const last = keySegments(key).at(-1)
  if (last === undefined || last.name.startsWith('@')) return undefined
  if (last.identity === undefined) return { by: 'name', name: unquoteName(last.name) }
  const name = identitiesIn(key).at(-1) ?? ''
  return name === '' ? undefined : { by: 'identity', name }
}

/** Whether a name is one that values are not equal to by chance, as they are to `7` and `x`. */
function isTelling(name: string): boolean {
  return asNumber(name) === undefined ? name.length > 1 : /^[0-9]{4,}$/.test(name)
}

/** The ways in which a file is named: its path, its name, its name without the extension, its folder. */
const NAMINGS: readonly ((path: string) => string | undefined)[] = [
  (path) => path,
  (path) => path.slice(path.lastIndexOf('/') + 1),
  (path) => path.slice(path.lastIndexOf('/') + 1).replace(/\.[^.]+$/, ''),
  (path) => path.split('/').at(-2),
]

/** Files that one side dropped, by each of their names that no file of the result has. */
function addFiles(
  files: readonly FileReport[],
  inputs: TogetherInputs,
  gone: Map<string, Gone[]>,
): void {
  const dropped = files.filter(({ outcome }) => outcome === 'removed')
  if (dropped.length === 0) return
  for (const naming of NAMINGS) {
    const left = new Set(
      files.flatMap(({ path, outcome }) => (outcome === 'removed' ? [] : (naming(path) ?? []))),
    )
    for (const { path, changes } of dropped) {
      const side = changes.find(({ key }) => key === '')?.side
      const name = naming(path)
      if (name === undefined || side === undefined || side === 'both' || left.has(name)) continue
      const known = (of: Side): ReadonlySet<string> =>
        new Set([...inputs.paths(of)].flatMap((each) => naming(each) ?? []))
      const kind = `files\0${NAMINGS.indexOf(naming)}`
      gather(gone, name, { what: path, kind, maker: side, known, definedAt: undefined })
    }
  }
}

interface Asked {
  inputs: TogetherInputs
  /** Whether all values of a pattern lead to things of a kind. */
  isReferenceTo: (thing: Gone, path: string, pattern: string) => boolean
}

function referencesTo(
  thing: Gone,
  value: string,
  { maker, path, key, kind }: MadeKey,
  { inputs, isReferenceTo }: Asked,
): Dangling[] {
  if (maker !== otherOf(thing.maker)) return []
  const texts =
    kind === 'changed' ? [{ key, text: value }] : inputs.textsIn(sideOf(maker), path, key)
  return [...texts]
    .filter(({ key: each, text }) => text === value && !isDefinition(path, each, thing.definedAt))
    .filter(({ key: each }) => isReferenceTo(thing, path, keyPattern(each)))
    .map(({ key: each }) => ({ path, key: each, value, gone: thing.maker, what: thing.what }))
}

/** Whether a key holds what names an entry of the kind that went: that is no reference to one. */
function isDefinition(path: string, key: string, at: Gone['definedAt']): boolean {
  return at?.path === path && at.keys.includes(keyPattern(key))
}

/** Whether all values of a pattern lead somewhere in each input; a single value tells nothing. */
function isReference(
  path: string,
  pattern: string,
  known: Gone['known'],
  inputs: TogetherInputs,
): boolean {
  const seen = new Set<string>()
  const holds = inputs.inAll((side) => {
    const names = known(side)
    return inputs.at(side, path, pattern).every(({ value }) => {
      if (value !== undefined) seen.add(value)
      return value !== undefined && names.has(value)
    })
  })
  return holds && seen.size > 1
}
