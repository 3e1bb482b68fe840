import type { KeySegment } from '../keys/key.ts'
import { keyPattern, keySegments } from '../keys/key.ts'
import type { KeyChange } from './key-change.ts'

/** Where so many names stand for one another, the name is an identity: a mapping of entries. */
const LEAST_NAMES = 3

/**
 * What alike keys have in common, for each change: its key without identities. Where no key around it
 * has an identity, a name is left out that three or more keys differ in, and of what came or went its own
 * name: there the names tell the entries of a mapping apart.
 */
export function patternsOf(
  changes: readonly KeyChange[],
  segments: readonly (readonly KeySegment[])[],
): string[] {
  const plain = changes.map(({ key }) => keyPattern(key))
  const names = new Map<string, Set<string>>()
  for (const [i, change] of changes.entries()) {
    for (const { shape, name } of shapesOf(change, plain[i] ?? '', segments[i] ?? [])) {
      const known = names.get(shape) ?? new Set<string>()
      names.set(shape, known.add(name))
    }
  }
  return changes.map((change, i) => {
    const pattern = plain[i] ?? ''
    let best: { shape: string; size: number } | undefined
    for (const { shape } of shapesOf(change, pattern, segments[i] ?? [])) {
      const size = names.get(shape)?.size ?? 0
      if (size >= LEAST_NAMES && size > (best?.size ?? 0)) best = { shape, size }
    }
    return best === undefined ? containerOf(change, pattern) : patternOfShape(best.shape)
  })
}

/** The same of keys whose values changed. */
export function patternsOfKeys(keys: readonly string[]): string[] {
  const changes = keys.map((key) => ({ kind: 'changed' as const, key, old: null, new: null }))
  return patternsOf(
    changes,
    keys.map((key) => keySegments(key)),
  )
}

/** The key with each of its names in turn left out, but the last: with what it was, so that shapes of different kinds differ. */
function shapesOf(
  { kind }: KeyChange,
  pattern: string,
  segments: readonly KeySegment[],
): { shape: string; name: string }[] {
  if (pattern.includes('[')) return []
  return segments.slice(0, -1).map((_, left) => ({
    shape: `${kind} ${segments.map(({ name }, at) => (at === left ? '*' : name)).join('/')}`,
    name: segments[left]?.name ?? '',
  }))
}

function patternOfShape(shape: string): string {
  return shape.slice(shape.indexOf(' ') + 1)
}

/** What came or went in a mapping goes by the mapping; all else by its own key. */
function containerOf({ kind, key }: KeyChange, pattern: string): string {
  if (kind !== 'added' && kind !== 'removed') return pattern
  if (key === '' || pattern.includes('[') || pattern.includes('@')) return pattern
  const around = keySegments(pattern)
    .slice(0, -1)
    .map(({ name }) => name)
  return [...around, '*'].join('/')
}
