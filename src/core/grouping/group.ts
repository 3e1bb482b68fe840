import type { ChangeKind } from '../plan/telling.ts'
import type { FileKeyChange, KeyChange } from './key-change.ts'
import type { Law } from './law.ts'
import { divideByLaw } from './law.ts'
import type { Placed } from './placed.ts'
import { bucketsOf, commonPath, placeChanges } from './placed.ts'

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
 * `new-name`: a key by a name that no earlier entry had. `file-…`: what became of a file as a whole. All
 * others are what the changes are.
 */
export type GroupKind =
  'new-name' | ChangeKind | 'file-added' | 'file-removed' | 'file-renamed' | 'file-changed'

/** The changes of one pattern that are alike or follow one law. */
export interface GroupPart {
  kind: GroupKind
  /** The keys without identities: `find[*]/worth`. */
  pattern: string
  law: Law | undefined
  /** Sorted by path and key. */
  changes: FileKeyChange[]
  /** Of a name that entries of one file got: how many have it now, of how many that could. */
  now?: { have: number; of: number }
}

/** One row: changes that are alike, or that go together on the same entries. */
export interface Group {
  /** The file, or what the paths of several have in common; empty where the row is about files. */
  path: string
  /** How many files it is in. */
  files: number
  kind: GroupKind
  pattern: string
  /** How many changes it holds. */
  count: number
  /** The entries that the parts have in common, where there are several; of each the key, or the path of its file. */
  entries: string[]
  parts: GroupPart[]
}

/**
 * Groups changes: those of one pattern with the same values, or that follow one law, are one row; rows on
 * the same entries are one; the most telling come first. Each change is in exactly one row. The order in
 * which changes are given does not matter.
 */
export function groupChanges(files: readonly FileChanges[]): Group[] {
  const facts = new Map(files.map(({ path, names }) => [path, names]))
  const rows = files.flatMap(({ path, changes }) =>
    placeChanges(
      path,
      changes.filter(({ key }) => key !== ''),
    ),
  )
  const inFiles = bucketsOf(rows).flatMap((bucket) => rowsOf(bucket, facts))
  return [...joinEntries(inFiles), ...fileGroups(files)].sort(byTelling)
}

/** A row before those on the same entries are joined. */
interface Row extends Group {
  /** What is the same for rows on the same entries; undefined where they cannot be joined. */
  signature: string | undefined
  entryPattern: string
}

/** The rows of one pattern and kind. */
function rowsOf(
  bucket: readonly Placed[],
  facts: ReadonlyMap<string, NameFacts | undefined>,
): Row[] {
  const [first] = bucket
  if (first === undefined) return []
  const { pattern, entryPattern } = first
  const kind = isNewName(bucket, facts) ? 'new-name' : first.change.kind
  const places = new Map(bucket.map((placed) => [placed.change, placed]))
  const changes = bucket.map(({ change }) => change)
  const divided =
    first.change.kind === 'changed' ? divideByLaw(changes) : [{ law: undefined, changes }]
  return divided.map(({ law, changes: alike }) => {
    const sorted = [...alike].sort(byPlace)
    const around = sorted.map((change) => entryOfPlaced(places.get(change)))
    const paths = [...new Set(sorted.map(({ path }) => path))]
    const part: GroupPart = { kind, pattern, law, changes: sorted }
    const [only] = paths
    const names = only === undefined || paths.length > 1 ? undefined : facts.get(only)
    if (isNameOfEntry(first) && names !== undefined) part.now = haveNow(first, names)
    return {
      path: commonPath(paths),
      files: paths.length,
      kind,
      pattern,
      entryPattern,
      count: sorted.length,
      entries: around.flatMap((each) => (each === undefined ? [] : [each.name])),
      parts: [part],
      signature: signatureOf(around.map((each) => each?.id)),
    }
  })
}

/** How an entry is called, and what tells it apart from those of all files. */
function entryOfPlaced(placed: Placed | undefined): { name: string; id: string } | undefined {
  if (placed?.entry === undefined) return undefined
  const { change, entry } = placed
  return { name: entry === '' ? change.path : entry, id: `${change.path}\0${entry}` }
}

function signatureOf(ids: readonly (string | undefined)[]): string | undefined {
  if (ids.includes(undefined) || new Set(ids).size !== ids.length) return undefined
  return ids.map((id) => `${id?.length ?? 0}:${id ?? ''}`).join()
}

function isNewName(
  bucket: readonly Placed[],
  facts: ReadonlyMap<string, NameFacts | undefined>,
): boolean {
  return bucket.every((placed) => {
    const names = facts.get(placed.change.path)
    return isNameOfEntry(placed) && names?.isKnown(placeOfPattern(placed.pattern)) === false
  })
}

/** Whether an entry got a key by a name: an item of a list in it has none. */
function isNameOfEntry({ change, pattern, entry }: Placed): boolean {
  return change.kind === 'added' && entry !== undefined && !/(\]|\*)$/.test(pattern)
}

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
    of: names.count(placeOfPattern(entryPattern)),
  }
}

/** Rows on the same entries are one. */
function joinEntries(rows: readonly Row[]): Group[] {
  const joined = new Map<string, Row>()
  const single: Row[] = []
  for (const row of [...rows].sort(byTelling)) {
    if (row.signature === undefined) {
      single.push(row)
      continue
    }
    // a value that was retuned is a row of its own, and never hidden under what came
    const isRetuned = row.kind === 'changed' ? 'changed' : 'other'
    const at = `${isRetuned} ${row.entryPattern} ${row.signature}`
    const known = joined.get(at)
    const parts = [...(known?.parts ?? []), ...row.parts]
    const count = (known?.count ?? 0) + row.count
    joined.set(
      at,
      known === undefined ? row : { ...known, pattern: known.entryPattern, count, parts },
    )
  }
  return [...joined.values(), ...single].map(
    ({ path, files, kind, pattern, count, entries, parts }) => ({
      path,
      files,
      kind,
      pattern,
      count,
      entries: [...new Set(entries)],
      parts,
    }),
  )
}

const FILE_KINDS = {
  added: 'file-added',
  removed: 'file-removed',
  renamed: 'file-renamed',
  changed: 'file-changed',
  moved: 'file-renamed',
} as const

/** Files that came are one row, and so are those that went, and so on. */
function fileGroups(files: readonly FileChanges[]): Group[] {
  const byKind = new Map<GroupKind, FileKeyChange[]>()
  for (const { path, changes } of files) {
    for (const change of changes) {
      if (change.key !== '') continue
      const kind = FILE_KINDS[change.kind]
      byKind.set(kind, [...(byKind.get(kind) ?? []), { ...change, key: path, path }])
    }
  }
  return [...byKind].map(([kind, changes]) => {
    const sorted = [...changes].sort(byPlace)
    const part = { kind, pattern: '', law: undefined, changes: sorted }
    const count = sorted.length
    return { path: '', files: count, kind, pattern: '', count, entries: [], parts: [part] }
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
  const [one, other] = [a.parts[0]?.changes[0], b.parts[0]?.changes[0]]
  return (
    TELLING.indexOf(a.kind) - TELLING.indexOf(b.kind) ||
    b.count - a.count ||
    compare(a.pattern, b.pattern) ||
    (one === undefined || other === undefined ? 0 : byPlace(one, other))
  )
}

function byPlace(a: FileKeyChange, b: FileKeyChange): number {
  return compare(a.path, b.path) || compare(a.key, b.key)
}

function compare(a: string, b: string): number {
  return a === b ? 0 : a < b ? -1 : 1
}
