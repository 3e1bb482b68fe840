import type { KeySegment } from '../keys/key.ts'
import { keyPattern, keySegments } from '../keys/key.ts'
import type { FileKeyChange, KeyChange } from './key-change.ts'
import { patternsOf } from './pattern.ts'

/** A change with the pattern of its key, and the entry that it is in. */
export interface Placed {
  change: FileKeyChange
  pattern: string
  /** Key of the entry around it; empty where the file is that; undefined where it is in none, or is one itself. */
  entry: string | undefined
  entryPattern: string
}

/** From this many files on that are alike by their paths, alike changes in them are one row. */
const MANY_FILES = 3

/** Places the changes of one file. */
export function placeChanges(path: string, changes: readonly KeyChange[]): Placed[] {
  const segments = changes.map(({ key }) => keySegments(key))
  const patterns = patternsOf(changes, segments)
  return changes.map((plain, i) => {
    const change = { ...plain, path }
    const pattern = patterns[i] ?? ''
    const inPattern = keySegments(pattern)
    const at = entryDepth(segments[i] ?? [], inPattern)
    if (at < 0) return { change, pattern, entry: undefined, entryPattern: '' }
    const entry = change.key.slice(0, segments[i]?.[at]?.end)
    return { change, pattern, entry, entryPattern: pattern.slice(0, inPattern[at]?.end) }
  })
}

/** The index of the last segment before the last one that tells an entry apart; -1 where there is none. */
function entryDepth(key: readonly KeySegment[], pattern: readonly KeySegment[]): number {
  for (let at = Math.min(key.length, pattern.length) - 2; at >= 0; at--)
    if (pattern[at]?.identity !== undefined || pattern[at]?.name === '*') return at
  return -1
}

/**
 * Changes of one kind and pattern together: those of one file, or of many that are alike by their paths.
 * Where each of many files holds one entry, the file is the entry that a change is in.
 */
export function bucketsOf(given: readonly Placed[]): Placed[][] {
  const placed = byOwnKey(given)
  return byKey(
    placed,
    ({ change, pattern }) => `${familyOf(change.path)} ${change.kind} ${pattern}`,
  ).flatMap((bucket) => {
    const files = byKey(bucket, ({ change }) => change.path)
    if (files.length < MANY_FILES) return files
    return [bucket.map((each) => ({ ...each, entry: each.entry ?? '' }))]
  })
}

/** What came or went under one key in many files goes by that key, and not by the mapping it is in. */
function byOwnKey(placed: readonly Placed[]): Placed[] {
  const own = ({ change }: Placed): string => keyPattern(change.key)
  const alike = byKey(
    placed.filter((each) => each.pattern !== own(each)),
    (each) => `${familyOf(each.change.path)} ${each.change.kind} ${own(each)}`,
  )
  const isAlike = new Set(
    alike.flatMap((group) => {
      const paths = new Set(group.map(({ change }) => change.path))
      return paths.size < MANY_FILES ? [] : group
    }),
  )
  return placed.map((each) => (isAlike.has(each) ? { ...each, pattern: own(each) } : each))
}

function byKey<T>(all: readonly T[], keyOf: (item: T) => string): T[][] {
  const groups = new Map<string, T[]>()
  for (const item of all) {
    const key = keyOf(item)
    const known = groups.get(key)
    if (known === undefined) groups.set(key, [item])
    else known.push(item)
  }
  return [...groups.values()]
}

/** What the paths of alike files have in common: `finds/5/120.json` is one of `finds` in `.json`, two folders deep. */
export function familyOf(path: string): string {
  const steps = path.split('/')
  const name = steps.at(-1) ?? ''
  const dot = name.lastIndexOf('.')
  const top = steps.length > 1 ? (steps[0] ?? '') : ''
  return `${top} ${steps.length} ${dot < 0 ? '' : name.slice(dot)}`
}

/** What several paths share, with a wildcard for the rest: `finds/**` and the extension. */
export function commonPath(paths: readonly string[]): string {
  const [first = ''] = paths
  if (paths.length < 2) return first
  const folders = paths.map((path) => path.split('/').slice(0, -1))
  const [one = []] = folders
  let depth = 0
  while (depth < one.length && folders.every((steps) => steps[depth] === one[depth])) depth++
  const shared = one.slice(0, depth)
  const isDeeper = folders.some((steps) => steps.length > depth)
  const extensions = new Set(paths.map((path) => /\.[^./]*$/.exec(path)?.[0] ?? ''))
  const name = `*${extensions.size === 1 ? ([...extensions][0] ?? '') : ''}`
  return [...shared, ...(isDeeper ? ['**'] : []), name].join('/')
}
