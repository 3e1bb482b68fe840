import { readlink, stat } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { z } from 'zod'
import type { Backup, BackupMade } from '../../core/facts/backup.ts'
import { Failure, systemFailure } from '../failure.ts'
import type { Disk } from '../io/disk.ts'
import { withLock } from '../io/lock.ts'
import { namesIn } from '../names-in.ts'
import { freeTimeName } from '../state/time-name.ts'
import { readState, writeState } from '../state/state-file.ts'
import type { StateLayout } from '../state/layout.ts'
import { readTree } from '../tree.ts'
import type { Variant, Workspace } from '../workspace.ts'
import { requireFolder } from '../workspace.ts'

const natural = z.int().nonnegative()

const factsSchema = z.strictObject({
  schema: z.literal(1),
  variant: z.string(),
  /** The live folder that it was copied from, as the config named it. */
  folder: z.string(),
  vanilla: z.string(),
  /** ISO time. */
  at: z.string(),
  files: natural,
  bytes: natural,
  /** Whether the operator said that what is live is what is to be kept. */
  asItIs: z.boolean().optional(),
  /** What it was made before: a delivery, or a restore and of which backup. */
  before: z.strictObject({ what: z.enum(['deliver', 'restore']), from: z.string() }).optional(),
})

export interface BackupOptions {
  now: Date
  /** Whether what is live is what is to be kept, whatever is gone from it. */
  asItIs?: boolean | undefined
  /** What it is made before. */
  before?: Backup['before']
  /** Files that it may lack where they may not be read: each is named. */
  mayLack?: ((path: string) => boolean) | undefined
  /** Paths that are no part of it. */
  isLeftOut?: (path: string) => boolean
  progress?: ((done: number, total: number) => void) | undefined
  signal?: AbortSignal | undefined
}

/** Copies the live folder of a variant, whole or not at all. */
export async function makeBackup(
  workspace: Workspace,
  variant: Variant,
  options: BackupOptions,
): Promise<BackupMade> {
  const { layout, disk } = workspace
  return withLock(layout.root, () => copyLive(workspace, variant, options), disk)
}

/** The same, for those who hold the lock. */
export async function copyLive(
  workspace: Workspace,
  variant: Variant,
  options: BackupOptions,
): Promise<BackupMade> {
  await requireFolder(variant)
  const { layout, disk } = workspace
  const name = await freeTimeName(variant.name, options.now, (each) => layout.backup(each))
  const incoming = layout.backup(`.incoming-${name}`)
  const made: BackupMade = {
    backup: {
      name,
      location: layout.backup(name),
      variant: variant.name,
      folder: variant.folder,
      vanilla: variant.vanilla,
      at: options.now.toISOString(),
      files: 0,
      bytes: 0,
      asItIs: options.asItIs === true,
      ...(options.before === undefined ? {} : { before: options.before }),
    },
    notHeld: [],
    wiped: [],
    wipedIn: undefined,
  }
  const isState = workspace.isState(variant.location)
  const { isLeftOut = () => false } = options
  try {
    await sweep(layout, disk)
    await disk.makeFolder(incoming)
    const from = { from: variant.location, to: incoming, disk }
    await copyTree(from, (path) => isState(path) || isLeftOut(path), made, options)
    await writeState(layout.backupFacts(name), factsOf(made.backup), disk)
    await disk.rename(incoming, layout.backup(name))
    return made
  } catch (error) {
    await disk.remove(incoming).catch(() => undefined) // swept by the next run
    throw systemFailure(error, `Backing up ${variant.name} into`, layout.backups)
  }
}

/** A backup as it is kept beside its folder. */
function factsOf(backup: Backup): z.infer<typeof factsSchema> {
  const { variant, folder, vanilla, at, files, bytes, asItIs, before } = backup
  const facts = { schema: 1 as const, variant, folder, vanilla, at, files, bytes }
  return {
    ...facts,
    ...(asItIs ? { asItIs } : {}),
    ...(before === undefined ? {} : { before }),
  }
}

/** Of a backup that was made before something which was then undone: it was made before nothing. */
export async function unmarkBackup(layout: StateLayout, name: string, disk: Disk): Promise<void> {
  const facts = await readState(layout.backupFacts(name), factsSchema)
  if (facts?.before === undefined) return
  delete facts.before
  await writeState(layout.backupFacts(name), facts, disk)
}

/** Removes what a run that was killed left behind, which is part of no backup. */
async function sweep(layout: StateLayout, disk: Disk): Promise<void> {
  const all = new Set(namesIn(layout.backups))
  for (const name of all) {
    const isFactsAlone = name.endsWith('.json') && !all.has(name.slice(0, -5))
    if (name.startsWith('.incoming-') || isFactsAlone) await disk.remove(join(layout.backups, name))
  }
}

async function copyTree(
  { from, to, disk }: { from: string; to: string; disk: Disk },
  isLeftOut: (path: string) => boolean,
  made: BackupMade,
  { signal, progress, mayLack }: BackupOptions,
): Promise<void> {
  const tree = readTree(from, isLeftOut)
  let done = 0
  for (const [path, { kind, location }] of tree) {
    signal?.throwIfAborted()
    const target = join(to, ...path.split('/'))
    await disk.makeFolder(kind === 'empty-folder' ? target : dirname(target))
    if (kind === 'file') {
      const bytes = await copied(path, location, target, { disk, made, mayLack })
      if (bytes === undefined) continue
      made.backup.bytes += bytes
      made.backup.files++
    } else if (kind === 'link') {
      const isMade = await disk.link(await readlink(location), target).then(
        () => true,
        () => false,
      )
      if (!isMade)
        made.notHeld.push({ path, message: 'is a link, which the system does not let us make' })
    } else if (kind === 'other')
      made.notHeld.push({ path, message: 'is a device, a pipe or a socket; it is not copied' })
    progress?.(++done, tree.size)
  }
}

/** Copies a file where it may be read, or must be; gives its bytes. */
async function copied(
  path: string,
  location: string,
  target: string,
  { disk, made, mayLack }: { disk: Disk; made: BackupMade } & Pick<BackupOptions, 'mayLack'>,
): Promise<number | undefined> {
  try {
    return await copyOne(location, target, disk)
  } catch (error) {
    const isClosed = error instanceof Failure && /^system\/(eacces|eperm)$/.test(error.code)
    if (!isClosed || mayLack?.(path) !== true) throw error
    made.notHeld.push({ path, message: 'may not be read; it is left alone, and is in no backup' })
    return undefined
  }
}

/** Copies a file with its time; gives its bytes. */
async function copyOne(location: string, target: string, disk: Disk): Promise<number> {
  try {
    await disk.copyFile(location, target)
    const { atime, mtime } = await stat(location)
    await disk.setTimes(target, atime, mtime)
    // of the copy: the file itself may have grown meanwhile
    return (await stat(target)).size
  } catch (error) {
    throw systemFailure(error, 'Copying', location)
  }
}

/** All backups, the newest first; of a variant where it is named. */
export async function listBackups(layout: StateLayout, variant?: string): Promise<Backup[]> {
  const all = new Set(namesIn(layout.backups))
  const backups: Backup[] = []
  for (const file of all) {
    if (!file.endsWith('.json') || !all.has(file.slice(0, -5))) continue
    const name = file.slice(0, -5)
    const facts = await readState(layout.backupFacts(name), factsSchema)
    if (facts === undefined || (variant !== undefined && facts.variant !== variant)) continue
    const { variant: of, folder, vanilla, at, files, bytes, asItIs = false, before } = facts
    const location = layout.backup(name)
    const known = { name, location, variant: of, folder, vanilla, at, files, bytes, asItIs }
    backups.push(before === undefined ? known : { ...known, before })
  }
  return backups.sort((a, b) => (a.at < b.at || (a.at === b.at && a.name < b.name) ? 1 : -1))
}

/**
 * Removes all backups of a variant but the newest, and but those that are spared; gives those that it removed.
 *
 * @param isSpared whether a backup holds what no other has
 */
export async function thinBackups(
  { layout, disk }: Pick<Workspace, 'layout' | 'disk'>,
  variant: string,
  keep: number,
  isSpared: (name: string) => boolean,
): Promise<Backup[]> {
  return withLock(
    layout.root,
    async () => {
      // the oldest first: a run that is killed leaves the newer ones, which tell what was kept on purpose
      const old = (await listBackups(layout, variant)).slice(keep).reverse()
      for (const { name, location } of old.filter((each) => !isSpared(each.name))) {
        // the folder first: facts alone are no backup, and are swept
        await disk.remove(location)
        await disk.remove(layout.backupFacts(name))
      }
      return old.filter((each) => !isSpared(each.name)).reverse()
    },
    disk,
  )
}
