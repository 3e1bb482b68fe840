import type { Backup, WipedEdit } from '../../core/facts/backup.ts'
import type { Release } from '../../core/facts/release.ts'
import { breathe } from '../breathe.ts'
import { listBackups } from '../backup/backup.ts'
import { listDrafts } from '../draft/draft.ts'
import { isLeftOut, ruleFor } from '../config/file-rule.ts'
import type { StateLayout } from '../state/layout.ts'
import type { ManifestFile } from '../store/release.ts'
import { findRelease } from '../store/release.ts'
import type { ClosedFolders, FileTree, TreeEntry } from '../tree.ts'
import { readBytes, readTree } from '../tree.ts'
import type { Variant, Workspace } from '../workspace.ts'
import { requireFolder } from '../workspace.ts'
import type { MadeFrom } from './file-edits.ts'
import { FileEdits } from './file-edits.ts'

/** The newest copy of a live file that had edits. */
export interface KeptCopy {
  backup: Backup
  entry: TreeEntry
}

/** A live file that was reset, and the copy that stands for it. */
export interface ResetFile {
  path: string
  kept: KeptCopy
  /** Whether the live file holds something of the operator's own. */
  hasOwn: boolean
}

/** The files of a variant as a carry takes them. */
export interface Mine {
  tree: FileTree
  /** The live folder alone. */
  live: FileTree
  /** Folders in the live folder that may not be opened. */
  closed: ClosedFolders
  /** Files for which a kept copy stands. */
  reset: ResetFile[]
  /** Reset files that hold something of the operator's own, too: somebody has to say which is meant. */
  unsure: ResetFile[]
  /** Every edit that the kept copies have and the live files have not. */
  wiped: WipedEdit[]
  /** Those of files for which the live file stands. */
  gone: WipedEdit[]
  /** The backup that has most of what is wiped. */
  wipedIn: Backup | undefined
}

/**
 * Which of the two stands for a file. `live`: what is live, always. `kept`: the kept copy, or else the newest, wherever
 * there is one. `reset`: the kept copy of every file that was reset. Where nothing is said: of every file that was reset
 * and holds nothing of the operator's own.
 */
export type MineChoice = 'live' | 'kept' | 'reset' | undefined

/**
 * The files of a variant: its live folder, and for files that were reset since they were last kept the kept copy.
 * Whoever asks what is mine, or what was wiped, asks here.
 */
export async function mineOf(
  workspace: Workspace,
  variant: Variant,
  options: { choice?: MineChoice; signal?: AbortSignal | undefined } = {},
): Promise<Mine> {
  await requireFolder(variant)
  const closed: ClosedFolders = new Map()
  const live = liveTree(workspace, variant, closed)
  const mine: Mine = {
    tree: live,
    live,
    closed,
    reset: [],
    unsure: [],
    wiped: [],
    gone: [],
    wipedIn: undefined,
  }
  const keeper = await KeptCopies.of(workspace, variant)
  if (keeper === undefined) return mine
  const { choice } = options
  const tree = new Map(live)
  const lostIn = new Map<Backup, number>()
  for (const path of keeper.paths()) {
    await breathe()
    options.signal?.throwIfAborted()
    const entry = live.get(path)
    if (isClosed(path, closed) || (entry !== undefined && entry.kind !== 'file')) continue
    const judged = await keeper.judge(path, entry, choice)
    if (judged === undefined) continue
    const { kept, wiped, isReset, hasOwn } = judged
    mine.wiped.push(...wiped)
    lostIn.set(kept.backup, (lostIn.get(kept.backup) ?? 0) + wiped.length)
    if (choice === 'live' || (!isReset && choice !== 'kept')) mine.gone.push(...wiped)
    else if (hasOwn && choice === undefined) mine.unsure.push({ path, kept, hasOwn })
    else {
      mine.reset.push({ path, kept, hasOwn })
      tree.set(path, kept.entry)
    }
  }
  mine.tree = new Map([...tree].sort(([a], [b]) => (a < b ? -1 : 1)))
  mine.wipedIn = [...lostIn].sort((a, b) => b[1] - a[1])[0]?.[0]
  return mine
}

/** The names of the backups that hold the kept copy of some file. */
export async function keptIn(workspace: Workspace, variant: Variant): Promise<Set<string>> {
  const keeper = await KeptCopies.of(workspace, variant)
  const names = new Set<string>()
  for (const path of keeper?.paths() ?? []) {
    await breathe()
    const name = await keeper?.nameOfKept(path)
    if (name !== undefined) names.add(name)
  }
  return names
}

/** The live folder, without what is left out and without the state of the workspace. */
export function liveTree(workspace: Workspace, variant: Variant, closed?: ClosedFolders): FileTree {
  const tree = readTree(variant.location, workspace.isState(variant.location), closed)
  return new Map([...tree].filter(([path]) => !isLeftOut(workspace.config, path)))
}

/** Whether a path stands in a folder that may not be opened, so that nothing is known of it. */
function isClosed(path: string, closed: ClosedFolders): boolean {
  return [...closed.keys()].some((folder) => path === folder || path.startsWith(`${folder}/`))
}

/** What is known of one live file against its kept copy. */
interface Judged {
  kept: KeptCopy
  wiped: WipedEdit[]
  isReset: boolean
  hasOwn: boolean
}

/** A folder with copies of a variant's files: a backup, or the draft that was delivered. */
interface KeptFolder {
  /** What it is called, where it is, from which vanilla it was made, and when. */
  backup: Backup
  tree: FileTree
  /** Whether somebody said that this is what is to be live: it was delivered, put back, or backed up as it is. */
  isMeant: boolean
}

/** What tells a delivered draft from a backup that is called the same. */
const OF_DRAFT = 'drafts/'

/** How a draft that was delivered is named where a backup could be. */
function deliveredName(draft: string): string {
  return `${OF_DRAFT}${draft}`
}

/** The folder of a kept copy, by the name of its backup, or of the draft that was delivered. */
export function keptFolder(layout: StateLayout, name: string): string {
  return name.startsWith(OF_DRAFT) ? layout.draft(name.slice(OF_DRAFT.length)) : layout.backup(name)
}

/** The folders that hold copies of a variant's files, the oldest first. */
async function keptFolders(
  { layout }: Workspace,
  variant: Variant,
): Promise<Omit<KeptFolder, 'tree'>[]> {
  const backups = await listBackups(layout, variant.name)
  const byName = new Map(backups.map((backup) => [backup.name, backup]))
  const plain = backups.map((backup) => ({ backup, isMeant: backup.asItIs, at: backup.at }))
  const delivered = (await listDrafts(layout, variant.name)).flatMap(
    ({ name, location, record }) => {
      if (record.delivered === undefined) return []
      const { at } = record.delivered
      const facts = {
        name: deliveredName(name),
        location,
        at,
        folder: variant.folder,
        vanilla: record.to,
      }
      const backup = { ...facts, variant: variant.name, files: 0, bytes: 0, asItIs: false }
      return [{ backup, isMeant: true, at: `${at}+` }]
    },
  )
  const putBack = backups.flatMap(({ before, at }) => {
    const backup = before?.what === 'restore' ? byName.get(before.from) : undefined
    return backup === undefined ? [] : [{ backup, isMeant: true, at: `${at}+` }]
  })
  // what was put live came right behind the backup of what was there before
  return [...plain, ...delivered, ...putBack]
    .sort((a, b) => (a.at < b.at ? -1 : 1))
    .map(({ backup, isMeant }) => ({ backup, isMeant }))
}

/** The copies of a variant's files in its backups, and in what was delivered. */
class KeptCopies {
  private constructor(
    private readonly workspace: Workspace,
    /** The oldest first. */
    private readonly copies: readonly KeptFolder[],
    private readonly releases: readonly ReleaseFiles[],
    private readonly order: readonly Release[],
  ) {}

  /** Undefined where nothing was backed up, or no release is known: then nothing can be said. */
  static async of(workspace: Workspace, variant: Variant): Promise<KeptCopies | undefined> {
    const { store } = workspace
    const kept = await keptFolders(workspace, variant)
    const all = await store.releases()
    if (kept.length === 0 || all.length === 0) return undefined
    const releases: ReleaseFiles[] = []
    for (const release of all)
      releases.push({
        release,
        files: new Map((await store.files(release)).map((file) => [file.path, file])),
      })
    const copies = kept.map((each) => ({ ...each, tree: readTree(each.backup.location) }))
    return new KeptCopies(workspace, copies, releases, all)
  }

  /** The paths of all files that a backup has. */
  paths(): string[] {
    const paths = new Set<string>()
    for (const { tree } of this.copies)
      for (const [path, { kind }] of tree)
        if (kind === 'file' && !isLeftOut(this.workspace.config, path)) paths.add(path)
    return [...paths].sort()
  }

  /** The backup that holds the kept copy of a file, or the newest of a file without edits. */
  async nameOfKept(path: string): Promise<string | undefined> {
    return (await this.keptCopy(path, this.editsOf(path), true))?.backup.name
  }

  private editsOf(path: string): FileEdits {
    return new FileEdits({
      path,
      rule: ruleFor(this.workspace.config, path),
      releases: this.contents(path),
    })
  }

  async judge(
    path: string,
    live: TreeEntry | undefined,
    choice: MineChoice,
  ): Promise<Judged | undefined> {
    const bytes = live === undefined ? undefined : readBytes(live.location)
    if (bytes !== undefined && this.isAsInAll(path, bytes)) return undefined
    const edits = this.editsOf(path)
    const kept = await this.keptCopy(path, edits, bytes === undefined || choice === 'kept')
    if (kept === undefined) return undefined
    const copy = this.madeFrom(kept, path)
    if (bytes?.equals(copy.bytes) === true) return undefined
    const loss = await edits.loss(copy, bytes)
    const isReset = await edits.isReset(bytes, loss)
    const hasOwn = isReset && bytes !== undefined && (await edits.hasOwn(copy, bytes))
    return { kept, wiped: loss.wiped, isReset, hasOwn }
  }

  /** Whether a live file is as every backup has it. */
  private isAsInAll(path: string, live: Buffer): boolean {
    return this.copies.every(({ tree }) => {
      const entry = tree.get(path)
      return entry?.kind === 'file' && readBytes(entry.location).equals(live)
    })
  }

  /**
   * The newest copy with edits; one that had lost much of what was kept before is none. Of a missing file any
   * copy does.
   */
  private async keptCopy(
    path: string,
    edits: FileEdits,
    isMissing: boolean,
  ): Promise<KeptCopy | undefined> {
    let [kept, last]: (KeptCopy | undefined)[] = []
    for (const { backup, tree, isMeant } of this.copies) {
      const entry = tree.get(path)
      const copy = entry?.kind === 'file' ? { backup, entry } : undefined
      if (isMeant) {
        kept = last = copy
        continue
      }
      if (copy === undefined) continue
      last = copy
      if (await this.becomesKept(path, kept, copy, edits)) kept = copy
    }
    return kept ?? (isMissing ? last : undefined)
  }

  private async becomesKept(
    path: string,
    before: KeptCopy | undefined,
    copy: KeptCopy,
    edits: FileEdits,
  ): Promise<boolean> {
    const bytes = readBytes(copy.entry.location)
    if (!(await edits.hasEdits(bytes))) return false
    if (before === undefined) return true
    return !edits.isMuchLost(await edits.loss(this.madeFrom(before, path), bytes))
  }

  /** A kept copy with what the release has that it was made from. */
  private madeFrom({ backup, entry }: KeptCopy, path: string): MadeFrom {
    const release = findRelease(this.order, backup.vanilla)
    const files = this.releases.find((each) => each.release === release)
    const vanilla = files === undefined ? undefined : this.contentIn(files, path)
    return { bytes: readBytes(entry.location), vanilla }
  }

  private contentIn({ files }: ReleaseFiles, path: string): Buffer | undefined {
    const file = files.get(path)
    return file === undefined ? undefined : this.workspace.store.content(file)
  }

  /** What all releases have at a path, each content once. */
  private contents(path: string): Buffer[] {
    const known = new Map<string, Buffer>()
    for (const each of this.releases) {
      const hash = each.files.get(path)?.hash
      if (hash === undefined || known.has(hash)) continue
      const content = this.contentIn(each, path)
      if (content !== undefined) known.set(hash, content)
    }
    return [...known.values()]
  }
}

interface ReleaseFiles {
  release: Release
  files: ReadonlyMap<string, ManifestFile>
}
