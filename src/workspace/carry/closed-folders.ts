import type { FileReport, LocatedProblem } from '../../core/report/report.ts'
import { fileProblem, fileReport } from '../../core/report/report.ts'
import type { Triple } from '../../core/document/sides.ts'
import { MINE, SIDE_NAMES, SIDES, triple } from '../../core/document/sides.ts'
import type { ClosedFolders, FileTree, TreeEntry } from '../tree.ts'

/** A folder that may not be opened in one of the inputs: of what is in it nothing can be known. */
export interface ClosedFolder {
  path: string
  problems: LocatedProblem[]
}

/** All such folders, none inside another. */
export function closedIn(closed: Triple<ClosedFolders>): ClosedFolder[] {
  const paths = [...new Set(closed.flatMap((each) => [...each.keys()]))].sort()
  return paths
    .filter((path) => !paths.some((other) => path.startsWith(`${other}/`)))
    .map((path) => ({
      path,
      problems: SIDES.flatMap((side) => {
        const failure = closed[side].get(path)
        if (failure === undefined) return []
        const said = {
          severity: 'error',
          code: 'folder/unreadable',
          message: failure.message,
        } as const
        return [{ ...fileProblem(path, said), input: SIDE_NAMES[side] }]
      }),
    }))
}

/**
 * The trees as they are carried: what stands below such a folder is as mine has it, as far as it may be
 * opened there, and is compared with nothing.
 */
export function withoutClosed(
  trees: Triple<FileTree>,
  folders: readonly ClosedFolder[],
): Triple<FileTree> {
  if (folders.length === 0) return trees
  const isBelow = (path: string): boolean =>
    folders.some((folder) => path === folder.path || path.startsWith(`${folder.path}/`))
  const kept = [...trees[MINE]].filter(([path]) => isBelow(path))
  return triple((side): Map<string, TreeEntry> => {
    const open = [...trees[side]].filter(([path]) => !isBelow(path))
    return new Map([...open, ...kept].sort(([a], [b]) => (a < b ? -1 : 1)))
  })
}

export function closedReport({ path, problems }: ClosedFolder): FileReport {
  return fileReport({ path, format: 'other', outcome: 'unread' }, { problems })
}
