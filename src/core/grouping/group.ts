import type { ChangeKind } from '../carry/ledger.ts'
import type { KeySegment } from '../keys/key.ts'
import { keySegments } from '../keys/key.ts'
import type { KeyChange } from './key-change.ts'
import type { Law } from './law.ts'
import { divideByLaw } from './law.ts'
import { patternsOf } from './pattern.ts'

/** What is to be grouped of one file. */
export interface FileChanges {
  path: string
  changes: readonly KeyChange[]
  /** What else is known of the documents; nothing where a file came or went as a whole. */
  names?: NameFacts | undefined
}

/** What can be asked about the names in a file before and after. A place is a key without identities. */
export interface NameFacts {
  /** Whether anything stood at a place before. */
  isKnown(place: string): boolean
  /** How many stand there now. */
  count(place: string): number
}

/**
 * `new-name`: a key by a name that no earlier entry had. `file`: one that came, went or has another name.
 * All others are what the changes are.
 */
export type GroupKind =
  'new-name' | ChangeKind | 'file-added' | 'file-removed' | 'file-renamed' | 'file-changed'

/** The changes of one pattern that are alike or follow one law. */
export interface GroupPart {
  kind: GroupKind
  /** The keys without identities: `find[*]/worth`. */
  pattern: string
  law: Law | undefined
  /** Sorted by key. */
  changes: KeyChange[]
  /** Of a name that entries got: how many have it now, of how many that could. */
  now?: { have: number; of: number }
}

/** One row: changes that are alike, or that go together on the same entries. */
export interface Group {
  path: string
  kind: GroupKind
  pattern: string
  /** How many changes it holds. */
  count: number
  /** The entries that the parts have in common, where there are several; of each the key. */
  entries: string[]
  parts: GroupPart[]
}

/** A change with where its entry is. */
interface Placed {
  change: KeyChange
  pattern: string
  /** Key of the entry around it; undefined where it belongs to none, or is one itself. */
  entry: string | undefined
  entryPattern: string | undefined
}

/**
 * Groups changes: those of one pattern with the same values, or that follow one law, are one row; rows on
 * the same entries are one; the most telling come first. Each change is in exactly one row. The order in
 * which changes are given does not matter.
 */
export function groupChanges(files: readonly FileChanges[]): Group[] {
  const groups = files.flatMap((file) => groupFile(file))
  return [...joinFiles(groups.filter(isFile)), ...groups.filter((group) => !isFile(group))].sort(
    byTelling,
  )
}

function isFile({ kind }: Group): boolean {
  return kind.startsWith('file-')
}

function groupFile({ path, changes, names }: FileChanges): Group[] {
  const buckets = new Map<string, Placed[]>()
  for (const placed of place(changes)) {
    const bucket = `${placed.change.kind} ${placed.pattern}`
    const known = buckets.get(bucket)
    if (known === undefined) buckets.set(bucket, [placed])
    else known.push(placed)
  }
  const rows = [...buckets.values()].flatMap((placed) => rowsOf(placed, names))
  return joinEntries(rows).map((group) => ({ path, ...group }))
}

type Row = Omit<Group, 'path'> & { signature: string | undefined; entryPattern: string | undefined }

function place(changes: readonly KeyChange[]): Placed[] {
  const segments = changes.map(({ key }) => keySegments(key))
  const patterns = patternsOf(changes, segments)
  return changes.map((change, i) => {
    const pattern = patterns[i] ?? ''
    const at = entryDepth(segments[i] ?? [], keySegments(pattern))
    if (at < 0) return { change, pattern, entry: undefined, entryPattern: undefined }
    const entry = change.key.slice(0, segments[i]?.[at]?.end)
    return { change, pattern, entry, entryPattern: pattern.slice(0, keySegments(pattern)[at]?.end) }
  })
}

/** The index of the last segment before the last one that tells an entry apart; -1 where there is none. */
function entryDepth(key: readonly KeySegment[], pattern: readonly KeySegment[]): number {
  for (let at = Math.min(key.length, pattern.length) - 2; at >= 0; at--)
    if (pattern[at]?.identity !== undefined || pattern[at]?.name === '*') return at
  return -1
}

/** The rows of one pattern and kind. */
function rowsOf(placed: readonly Placed[], names: NameFacts | undefined): Row[] {
  const [first] = placed
  if (first === undefined) return []
  const { pattern, entryPattern } = first
  const kind = kindOf(first, names)
  const entries = new Map(placed.map(({ change, entry }) => [change, entry]))
  const divided =
    first.change.kind === 'changed'
      ? divideByLaw(placed.map(({ change }) => change))
      : [{ law: undefined, changes: placed.map(({ change }) => change) }]
  return divided.map(({ law, changes }) => {
    const sorted = [...changes].sort(byKey)
    const around = sorted.map((change) => entries.get(change))
    const part: GroupPart = { kind, pattern, law, changes: sorted }
    if (isNameOfEntry(first) && names !== undefined) part.now = haveNow(first, names)
    return {
      kind,
      pattern,
      entryPattern,
      count: sorted.length,
      entries: around.filter((entry) => entry !== undefined),
      parts: [part],
      signature: signatureOf(around),
    }
  })
}

/** What is the same for rows on the same entries; undefined where they cannot be joined. */
function signatureOf(entries: readonly (string | undefined)[]): string | undefined {
  if (entries.includes(undefined) || new Set(entries).size !== entries.length) return undefined
  return entries.map((entry) => `${entry?.length ?? 0}:${entry ?? ''}`).join()
}

function kindOf(placed: Placed, names: NameFacts | undefined): GroupKind {
  const { change, pattern } = placed
  if (change.key === '') return FILE_KINDS[change.kind]
  const isNew = isNameOfEntry(placed) && names?.isKnown(placeOfPattern(pattern)) === false
  return isNew ? 'new-name' : change.kind
}

/** Whether an entry got a key by a name: an item of a list in it has none. */
function isNameOfEntry({ change, pattern, entry }: Placed): boolean {
  return change.kind === 'added' && entry !== undefined && !pattern.endsWith(']')
}

const FILE_KINDS = {
  added: 'file-added',
  removed: 'file-removed',
  renamed: 'file-renamed',
  changed: 'file-changed',
  moved: 'file-renamed',
} as const

/** `find[*]/@fragile` has the place `find/@fragile`. */
function placeOfPattern(pattern: string): string {
  return pattern.replace(/\[\*\]/g, '')
}

function haveNow(
  { pattern, entryPattern }: Placed,
  names: NameFacts,
): { have: number; of: number } {
  return {
    have: names.count(placeOfPattern(pattern)),
    of: names.count(placeOfPattern(entryPattern ?? '')),
  }
}

/** Rows on the same entries are one. */
function joinEntries(rows: readonly Row[]): Omit<Group, 'path'>[] {
  const joined = new Map<string, Row>()
  const single: Row[] = []
  for (const row of [...rows].sort(byTellingRow)) {
    if (row.signature === undefined) {
      single.push(row)
      continue
    }
    const at = `${row.entryPattern ?? ''} ${row.signature}`
    const known = joined.get(at)
    if (known === undefined) joined.set(at, row)
    else {
      joined.set(at, {
        ...known,
        pattern: known.entryPattern ?? '',
        count: known.count + row.count,
        parts: [...known.parts, ...row.parts],
      })
    }
  }
  return [...joined.values(), ...single].map(({ kind, pattern, count, entries, parts }) => ({
    kind,
    pattern,
    count,
    entries: [...new Set(entries)],
    parts,
  }))
}

/** Files that came are one row, and so are those that went, and so on. */
function joinFiles(groups: readonly Group[]): Group[] {
  const byKind = new Map<GroupKind, Group[]>()
  for (const group of groups) byKind.set(group.kind, [...(byKind.get(group.kind) ?? []), group])
  return [...byKind].map(([kind, same]) => {
    const sorted = [...same].sort((a, b) => (a.path < b.path ? -1 : 1))
    const changes = sorted.flatMap(({ path, parts }) =>
      parts.flatMap((part) => part.changes.map((change) => ({ ...change, key: path }))),
    )
    const part = { kind, pattern: '', law: undefined, changes }
    return { path: '', kind, pattern: '', count: changes.length, entries: [], parts: [part] }
  })
}

const TELLING: readonly GroupKind[] = [
  'new-name',
  'file-added',
  'file-removed',
  'file-renamed',
  'changed',
  'added',
  'removed',
  'renamed',
  'moved',
  'file-changed',
]

function byTelling(a: Group, b: Group): number {
  return byTellingRow(a, b) || compare(a.path, b.path)
}

type Told = Pick<Group, 'kind' | 'count' | 'pattern' | 'parts'>

function byTellingRow(a: Told, b: Told): number {
  return (
    TELLING.indexOf(a.kind) - TELLING.indexOf(b.kind) ||
    b.count - a.count ||
    compare(a.pattern, b.pattern) ||
    compare(a.parts[0]?.changes[0]?.key ?? '', b.parts[0]?.changes[0]?.key ?? '')
  )
}

function byKey(a: KeyChange, b: KeyChange): number {
  return compare(a.key, b.key)
}

function compare(a: string, b: string): number {
  return a === b ? 0 : a < b ? -1 : 1
}
