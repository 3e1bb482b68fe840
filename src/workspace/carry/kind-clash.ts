import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { fileFate, presenceOf, wholeChange } from '../../core/report/file-fate.ts'
import { pickSide } from '../../core/document/pick.ts'
import type { FileReport } from '../../core/report/report.ts'
import { fileReport } from '../../core/report/report.ts'
import type { Side, Triple } from '../../core/document/sides.ts'
import { MINE, triple } from '../../core/document/sides.ts'
import type { FileTree } from '../tree.ts'
import { targetOf } from '../tree.ts'
import type { Shown } from './whole-entry.ts'
import { conflictOfWhole, rowOfWhole, shownLink } from './whole-entry.ts'

/** A path that is a file in one input and a folder in another: it is decided as a whole. */
export interface KindClash {
  root: string
  /** Whose file or folder stands. */
  side: Side
  /** Whether both changed what old had. */
  conflict: boolean
  /** What each input has there, as a hash. */
  contents: Triple<string | undefined>
  /** What is shown of it: that it is a folder, or where a link leads. */
  shown: Shown
}

/** All such paths, with the three-way choice between what the inputs have there. */
export function kindClashes(trees: Triple<FileTree>): KindClash[] {
  const folders = trees.map(foldersOf)
  const clashes: KindClash[] = []
  const things = trees.flatMap((tree) =>
    [...tree].filter(([, entry]) => entry.kind !== 'empty-folder').map(([path]) => path),
  )
  for (const root of new Set(things)) {
    if (!folders.some((set) => set.has(root))) continue
    const contents = triple((side) => contentOf(trees[side], root))
    const [old, fresh, mine] = contents
    const side =
      old !== undefined && mine === undefined && fresh !== old ? MINE : pickSide(contents)
    const conflict = fresh !== mine && fresh !== old && mine !== old
    const shown = triple((side) =>
      folders[side]?.has(root) === true ? 'a folder' : shownLink(trees[side].get(root)),
    )
    clashes.push({ root, side: side ?? MINE, conflict, contents, shown })
  }
  return clashes.filter(({ root }) => !clashes.some((other) => root.startsWith(`${other.root}/`)))
}

/** A hash of the file at a path, or of all that is below it; undefined where there is neither. */
function contentOf(tree: FileTree, root: string): string | undefined {
  const below = [...tree].filter(([path]) => path === root || path.startsWith(`${root}/`))
  if (below.length === 0) return undefined
  const hash = createHash('sha256')
  for (const [path, entry] of below) {
    hash.update(`${path.length}:${path}${entry.kind}`)
    if (entry.kind === 'file') hash.update(readFileSync(entry.location))
    if (entry.kind === 'link') hash.update(targetOf(entry))
  }
  return hash.digest('hex')
}

function foldersOf(tree: FileTree): Set<string> {
  const folders = new Set<string>()
  for (const [path, entry] of tree) {
    if (entry.kind === 'empty-folder') folders.add(path)
    for (let at = path.lastIndexOf('/'); at > 0; at = path.lastIndexOf('/', at - 1)) {
      folders.add(path.slice(0, at))
    }
  }
  return folders
}

/** The report of a clash: one row or one conflict over the whole path. */
export function clashReport({ root, conflict, contents, shown }: KindClash): FileReport {
  const file = { path: root, format: 'other' } as const
  if (conflict) {
    const conflicts = [conflictOfWhole(root, 'file', contents, shown)]
    return fileReport({ ...file, outcome: 'conflict' }, { conflicts })
  }
  const presence = presenceOf(contents, (a, b) => a !== undefined && a === b)
  const fate = fileFate(presence)
  const change = wholeChange(presence)
  return fileReport(
    { ...file, outcome: 'outcome' in fate ? fate.outcome : 'mine' },
    { changes: change === undefined ? [] : [rowOfWhole(change)] },
  )
}
