import { readFileSync } from 'node:fs'
import { pick } from '../../core/document/pick.ts'
import { similarity } from '../../core/likeness/counted.ts'
import type { Side, Triple } from '../../core/document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../../core/document/sides.ts'
import type { Content } from '../content/file-content.ts'
import { contentOfFile } from '../content/file-content.ts'
import type { FileTree, TreeEntry } from '../tree.ts'

/** A dropped and an added file that share this much of their keys and values are one, renamed. */
const LEAST_RENAMED = 0.6
/** More dropped and added files than this are not compared. */
const MOST_COMPARED = 150

/** One file as the three inputs have it. */
export interface FilePair {
  /** The path in the result. */
  path: string
  entries: Triple<TreeEntry | undefined>
  /** The path it had, where a side renamed it, and which. */
  renamed?: { was: string; by: 'vanilla' | 'mine' }
  /** The spelling in the inputs, where they differ by capitals alone. */
  spellings?: string[]
}

/**
 * Which file of one input is which of the others: by path, by a path that differs in capitals alone
 * where no input has two such, and by content where one side renamed it.
 */
export function pairFiles(trees: Triple<FileTree>): FilePair[] {
  const pairs = new Map<string, FilePair>()
  for (const spellings of spelledAlike(trees)) {
    const paths = triple((side) => spellings.find((path) => trees[side].has(path)))
    const path = pick(paths) ?? ''
    const entries = triple((side) => trees[side].get(paths[side] ?? ''))
    pairs.set(path, spellings.length > 1 ? { path, entries, spellings } : { path, entries })
  }
  joinRenamed(pairs, NEW, MINE)
  joinRenamed(pairs, MINE, NEW)
  return [...pairs.values()].sort((a, b) => (a.path < b.path ? -1 : 1))
}

/** All paths; those that differ in capitals alone together, where each input has one at most. */
function spelledAlike(trees: Triple<FileTree>): string[][] {
  const groups = new Map<string, string[]>()
  for (const tree of trees) {
    for (const path of tree.keys()) {
      const folded = path.toLowerCase()
      const group = groups.get(folded)
      if (group === undefined) groups.set(folded, [path])
      else if (!group.includes(path)) group.push(path)
    }
  }
  return [...groups.values()].flatMap((spellings) => {
    if (spellings.length === 1) return [spellings]
    const apart = trees.some((tree) => spellings.filter((path) => tree.has(path)).length > 1)
    return apart ? spellings.map((path) => [path]) : [spellings]
  })
}

/** Finds files that `by` renamed: gone from it, there in old and the other; and one that only it has. */
function joinRenamed(pairs: Map<string, FilePair>, by: Side, other: Side): void {
  const isFile = (pair: FilePair): boolean =>
    pair.entries.every((entry) => entry === undefined || entry.kind === 'file')
  const all = [...pairs.values()].filter(isFile)
  const gone = all.filter(
    ({ entries }) =>
      entries[OLD] !== undefined && entries[by] === undefined && entries[other] !== undefined,
  )
  const come = all.filter(({ entries }) =>
    SIDES.every((side) => (entries[side] !== undefined) === (side === by)),
  )
  if (
    gone.length === 0 ||
    come.length === 0 ||
    gone.length > MOST_COMPARED ||
    come.length > MOST_COMPARED
  )
    return
  const before = gone.map(({ path, entries }) => contentOf(path, entries[OLD]))
  const after = come.map(({ path, entries }) => contentOf(path, entries[by]))
  const taken = new Set<number>()
  for (const [i, pair] of gone.entries()) {
    const scores = after.map((features, j) => (taken.has(j) ? 0 : likeness(before[i], features)))
    const j = scores.indexOf(Math.max(...scores))
    const found = come[j]
    if (found === undefined || (scores[j] ?? 0) < LEAST_RENAMED) continue
    taken.add(j)
    pairs.delete(pair.path)
    const entries = triple((side) => (side === by ? found.entries[side] : pair.entries[side]))
    pairs.set(found.path, {
      path: found.path,
      entries,
      renamed: { was: pair.path, by: by === NEW ? 'vanilla' : 'mine' },
    })
  }
}

function contentOf(path: string, entry: TreeEntry | undefined): Content | undefined {
  if (entry === undefined) return undefined
  const { sort, size, features } = contentOfFile(path, readFileSync(entry.location))
  return { sort, size, features }
}

function likeness(a: Content | undefined, b: Content | undefined): number {
  if (a === undefined || b === undefined || a.sort !== b.sort || a.size === 0 || b.size === 0)
    return 0
  const ratio = a.size / b.size
  return ratio > 4 || ratio < 0.25 ? 0 : similarity(a.features, b.features)
}
