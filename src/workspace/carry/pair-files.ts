import { readFileSync } from 'node:fs'
import { pick } from '../../core/document/pick.ts'
import type { Compared, Features } from '../../core/likeness/features.ts'
import { FeatureTable, likeness, Rarity } from '../../core/likeness/features.ts'
import { sampled } from '../../core/likeness/sampled.ts'
import type { Side, Triple } from '../../core/document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../../core/document/sides.ts'
import type { Content } from '../content/file-content.ts'
import { contentOfFile } from '../content/file-content.ts'
import type { FileTree, TreeEntry } from '../tree.ts'

/** A rename is claimed where a dropped and an added file are so much alike, ... */
const LEAST_RENAMED = 0.9
/** ... no other comes nearer than this, ... */
const CLEARLY = 0.15
/** ... and so many values that few of their neighbours have are the same, ... */
const LEAST_COUNTING = 5
/** ... with so many neighbours to tell what is rare; else so many values. */
const LEAST_NEIGHBOURS = 2
const LEAST_COUNTING_ALONE = 12
/** From this likeness on a file is named as what another may have become. */
const PERHAPS = 0.3
/** So many neighbours tell how rare a value is. */
const MOST_NEIGHBOURS = 32
/** More dropped and added files than this are not compared. */
const MOST_COMPARED = 150

/** One file as the three inputs have it. */
export interface FilePair {
  /** The path in the result. */
  path: string
  entries: Triple<TreeEntry | undefined>
  /** The path it had, where a side renamed it, and which. */
  renamed?: { was: string; by: 'vanilla' | 'mine' }
  /** The path of the file that this one may be, where a side dropped it. */
  perhaps?: string
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
  joinRenamed(pairs, NEW, MINE, trees[OLD])
  joinRenamed(pairs, MINE, NEW, trees[OLD])
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
function joinRenamed(pairs: Map<string, FilePair>, by: Side, other: Side, old: FileTree): void {
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
  const search = new RenameSearch(old)
  const before = gone.map(({ path, entries }) => search.file(path, entries[OLD]))
  const after = come.map(({ path, entries }) => search.file(path, entries[by]))
  const scores = before.map((one) => after.map((another) => search.compare(one, another)))
  for (const [i, pair] of gone.entries()) {
    const row = scores[i] ?? []
    const best = row.reduce((at, each, j) => (each.score > (row[at]?.score ?? 0) ? j : at), 0)
    const [found, likely] = [come[best], row[best]]
    if (found === undefined || likely === undefined || likely.score < PERHAPS) continue
    const rivals = [
      ...row.filter((_, j) => j !== best),
      ...scores.filter((_, k) => k !== i).map((each) => each[best] ?? likely),
    ]
    const isAlone = rivals.every(({ score }) => likely.score - score >= CLEARLY)
    if (!isAlone || !likely.isSure) {
      pairs.set(pair.path, { ...pair, perhaps: found.path })
      continue
    }
    pairs.delete(pair.path)
    const entries = triple((side) => (side === by ? found.entries[side] : pair.entries[side]))
    pairs.set(found.path, {
      path: found.path,
      entries,
      renamed: { was: pair.path, by: by === NEW ? 'vanilla' : 'mine' },
    })
  }
}

interface KnownFile extends Compared {
  content: Content
}

/** Compares dropped and added files: what all files of their folder have tells nothing. */
class RenameSearch {
  private readonly table = new FeatureTable()
  private readonly rarities = new Map<string, Rarity>()

  constructor(private readonly old: FileTree) {}

  file(path: string, entry: TreeEntry | undefined): KnownFile | undefined {
    const content = contentAt(path, entry)
    if (content === undefined) return undefined
    return { content, features: this.features(content), rarity: this.rarityBeside(path) }
  }

  compare(a: KnownFile | undefined, b: KnownFile | undefined): { score: number; isSure: boolean } {
    const no = { score: 0, isSure: false }
    if (a === undefined || b === undefined || a.content.sort !== b.content.sort) return no
    const ratio = a.content.size / b.content.size
    if (!(ratio <= 4 && ratio >= 0.25)) return no
    const { score, counting } = likeness(a, b)
    const least = a.rarity.size > LEAST_NEIGHBOURS ? LEAST_COUNTING : LEAST_COUNTING_ALONE
    return { score, isSure: score >= LEAST_RENAMED && counting >= least }
  }

  private features({ features }: Content): Features {
    return this.table.ofTexts(
      [...features.names()].map((feature) => {
        const at = feature.indexOf('=')
        return at < 0 ? [feature, ''] : [feature.slice(0, at), feature.slice(at + 1)]
      }),
    )
  }

  /** How rare values are among the files of one folder of old that have the same ending. */
  private rarityBeside(path: string): Rarity {
    const folder = path.slice(0, path.lastIndexOf('/') + 1)
    const ending = path.slice(path.lastIndexOf('.'))
    const known = this.rarities.get(`${folder}*${ending}`)
    if (known !== undefined) return known
    const beside = [...this.old].filter(
      ([each, { kind }]) =>
        kind === 'file' &&
        each.startsWith(folder) &&
        !each.slice(folder.length).includes('/') &&
        each.endsWith(ending),
    )
    const rarity = new Rarity(
      sampled(beside, MOST_NEIGHBOURS).flatMap(([each, entry]) => {
        const content = contentAt(each, entry)
        return content === undefined ? [] : [this.features(content)]
      }),
    )
    this.rarities.set(`${folder}*${ending}`, rarity)
    return rarity
  }
}

/** What a file holds; undefined where there is none, or one that may not be opened: it is named where it is carried. */
function contentAt(path: string, entry: TreeEntry | undefined): Content | undefined {
  if (entry === undefined) return undefined
  try {
    return contentOfFile(path, readFileSync(entry.location))
  } catch {
    return undefined
  }
}
