import { stat } from 'node:fs/promises'
import type { LocatedProblem } from '../../core/report/report.ts'
import { fileProblem } from '../../core/report/report.ts'
import type { InputName } from '../../core/plan/telling.ts'
import type { Triple } from '../../core/document/sides.ts'
import { MINE, NEW, OLD, SIDE_NAMES, triple } from '../../core/document/sides.ts'
import { EXIT, Failure, systemFailure } from '../failure.ts'
import type { ClosedFolders, FileTree } from '../tree.ts'
import { readTree } from '../tree.ts'
import type { Workspace } from '../workspace.ts'
import type { CarryPaths } from './input-paths.ts'
import { isNoOld, mixedKinds } from './input-paths.ts'

/** What the three inputs of a carry turned out to be. */
export type CarryInputs = {
  /** The inputs that are paths on this disk, and not releases or archives. */
  onDisk: InputName[]
  /** What is to be said of how they were taken. */
  notes: LocatedProblem[]
  /** Removes what was unpacked for this carry. */
  close: () => Promise<void>
} & ({ kind: 'file' } | { kind: 'folder'; trees: Triple<FileTree>; closed: Triple<ClosedFolders> })

/** One input as it was found. */
interface Found {
  kind: 'file' | 'folder'
  onDisk: boolean
  /** Of a folder, and of what counts as one. */
  tree?: () => Promise<FileTree> | FileTree
}

/** How inputs are opened. */
export interface OpenOptions {
  /** The workspace whose labels can be named. */
  workspace?: Workspace | undefined
  /** Vanilla's files where new holds changed files only. */
  onto?: string | undefined
  signal?: AbortSignal | undefined
}

/**
 * Opens the inputs of a carry: files, or folders and what counts as one: an archive, a revision of a repository, the
 * label of a release.
 *
 * @throws Failure where one is missing, or they are of different kinds
 */
export async function openInputs(paths: CarryPaths, options: OpenOptions): Promise<CarryInputs> {
  const opener = new Opener(options)
  try {
    const mine = await opener.path(paths.mine, '--mine')
    const isFolder = mine.kind === 'folder'
    const fresh = await opener.vanilla(paths.new, '--new', isFolder)
    const old = isNoOld(paths) ? undefined : await opener.vanilla(paths.old, '--old', isFolder)
    const found: Triple<Found | undefined> = [old, fresh, mine]
    refuseMixed(paths, found)
    const { notes } = opener
    const onDisk = SIDE_NAMES.filter((_, side) => found[side]?.onDisk === true)
    const close = (): Promise<void> => opener.close()
    if (!isFolder) {
      if (options.onto !== undefined) throw ontoOfFiles()
      return { kind: 'file', onDisk, notes, close }
    }
    const closed = triple((): ClosedFolders => new Map())
    const onto =
      options.onto === undefined
        ? undefined
        : await opener.vanilla(options.onto, '--onto', isFolder)
    const trees: Triple<FileTree> = [
      old === undefined ? new Map() : await opener.tree(old, closed[OLD]),
      new Map([
        ...(onto === undefined ? [] : await opener.tree(onto, new Map())),
        ...(await opener.tree(fresh, closed[NEW])),
      ]),
      await opener.tree(mine, closed[MINE]),
    ]
    return { kind: 'folder', trees, closed, onDisk, notes, close }
  } catch (error) {
    await opener.close()
    throw error
  }
}

function ontoOfFiles(): Failure {
  return new Failure('call/wrong', '--onto is for folders: a single file is whole', {
    exit: EXIT.wrongCall,
    hint: 'leave --onto out, or name folders',
  })
}

function refuseMixed(paths: CarryPaths, found: Triple<Found | undefined>): void {
  const there = SIDE_NAMES.flatMap((name, side) => {
    const each = found[side]
    return each === undefined ? [] : [{ name, kind: each.kind }]
  })
  const [first] = there
  const other = there.find(({ kind }) => kind !== first?.kind)
  if (first === undefined || other === undefined) return
  throw mixedKinds(paths, [first.name, other.name], [first.kind, other.kind])
}

class Opener {
  readonly notes: LocatedProblem[] = []
  private readonly unpacked: (() => Promise<void>)[] = []
  private readonly folders = new Map<Found, string>()

  constructor(private readonly options: OpenOptions) {}

  async close(): Promise<void> {
    for (const remove of this.unpacked.splice(0)) await remove()
  }

  async tree(found: Found, closed: ClosedFolders): Promise<FileTree> {
    const folder = this.folders.get(found)
    if (folder !== undefined) return readTree(folder, undefined, closed)
    return (await found.tree?.()) ?? new Map()
  }

  /** A file or a folder on disk. */
  async path(path: string, option: string): Promise<Found> {
    const there = await stat(path).catch((error: unknown) => {
      throw systemFailure(error, `${option}: looking at`, path)
    })
    if (there.isDirectory()) return this.folder(path)
    if (there.isFile()) return { kind: 'file', onDisk: true }
    throw new Failure('call/neither', `${option}: ${path} is neither a file nor a folder`, {
      exit: EXIT.wrongCall,
      path,
    })
  }

  private folder(path: string): Found {
    const found: Found = { kind: 'folder', onDisk: true }
    this.folders.set(found, path)
    return found
  }

  /** What `vanilla add` takes, and the label of a release. @param amongFolders whether mine is a folder */
  async vanilla(named: string, option: string, amongFolders: boolean): Promise<Found> {
    const { workspace } = this.options
    const there = await stat(named).catch(() => undefined)
    const release = workspace === undefined ? undefined : await storedRelease(workspace, named)
    if (there !== undefined) {
      if (release !== undefined) this.notes.push(pathAndLabel(named, option))
      if (there.isDirectory()) return this.folder(named)
      if (!amongFolders || !there.isFile() || !(await isPacked(named)))
        return this.path(named, option)
      return this.source(named)
    }
    if (release !== undefined) return { kind: 'folder', onDisk: false, tree: release }
    const at = named.lastIndexOf('@')
    if (at > 0 && (await stat(named.slice(0, at)).catch(() => undefined)) !== undefined)
      return this.source(named)
    if (workspace !== undefined) await refuseUnknownLabel(workspace, named, option)
    return this.path(named, option)
  }

  /** An archive or a revision, taken into a store of its own. */
  private async source(named: string): Promise<Found> {
    const { unpackSource } = await import('./unpack-source.ts')
    const { tree, remove, remarks } = await unpackSource(named, this.options.signal)
    this.unpacked.push(remove)
    for (const { path, code, message } of remarks)
      this.notes.push(fileProblem(path, { severity: 'warning', code, message }))
    return { kind: 'folder', onDisk: false, tree: () => tree }
  }
}

/** The files of a release of the store, where it has one of this name. */
async function storedRelease(
  workspace: Workspace,
  named: string,
): Promise<(() => Promise<FileTree>) | undefined> {
  const { findRelease } = await import('../store/release.ts')
  const { releaseTree } = await import('../store/release-tree.ts')
  const release = findRelease(await workspace.store.releases(), named)
  return release && (() => releaseTree(workspace.store, release, true))
}

/** @throws Failure that names the nearest release, where nothing on disk can be meant */
async function refuseUnknownLabel(
  workspace: Workspace,
  named: string,
  option: string,
): Promise<void> {
  if (/[\\/]/.test(named)) return
  const { unknownRelease } = await import('../store/release.ts')
  const releases = await workspace.store.releases()
  throw unknownRelease(releases, named, `${option}: there is neither a path nor a vanilla ${named}`)
}

function pathAndLabel(named: string, option: string): LocatedProblem {
  return fileProblem('', {
    severity: 'note',
    code: 'call/path-and-label',
    message: `${option}: ${named} is a path here and the label of a vanilla; the path was taken`,
  })
}

/** Whether a file is an archive, by its first bytes. */
async function isPacked(path: string): Promise<boolean> {
  const { isArchive } = await import('../source/open-source.ts')
  return isArchive(path)
}
