import { lstatSync, statSync } from 'node:fs'
import type { Backup } from '../../core/facts/backup.ts'
import type { Restored } from '../../core/facts/delivered.ts'
import { nearest } from '../../core/keys/nearest.ts'
import { listBackups } from '../backup/backup.ts'
import { isLeftOut } from '../config/file-rule.ts'
import { EXIT, Failure } from '../failure.ts'
import type { FileTree } from '../tree.ts'
import { readTree } from '../tree.ts'
import type { Variant, Workspace } from '../workspace.ts'
import { requireFolder } from '../workspace.ts'
import { backUpAndPut, whileFinished } from './back-up-and-put.ts'
import type { Step } from './journal.ts'
import { standing } from './live-folder.ts'
import { unwritable } from './plan-delivery.ts'

export interface RestoreRequest {
  now: Date
  /** Whether files are removed that the backup has not. */
  removeLater: boolean
  /** Shown what would be done; whether it is to be done. */
  confirm: (restored: Restored) => Promise<boolean>
}

/** The backup that a call means, and whose it is. @param name the newest that a delivery or a restore made, by default */
export async function backupToRestore(
  workspace: Workspace,
  name: string | undefined,
): Promise<{ backup: Backup; variant: Variant }> {
  const all = await listBackups(workspace.layout)
  if (name !== undefined) {
    const backup = all.find((each) => each.name === name)
    if (backup === undefined) throw unknownBackup(name, all)
    return { backup, variant: workspace.variant(backup.variant) }
  }
  const [variant, ...others] = workspace.variants
  if (variant === undefined || others.length > 0)
    throw new Failure('call/wrong', 'the call does not name a backup', {
      exit: EXIT.wrongCall,
      hint: `there are several variants: name a backup of one; anagnosis backup list names them`,
    })
  const backup = all.find((each) => each.variant === variant.name && each.before !== undefined)
  if (backup !== undefined) return { backup, variant }
  throw new Failure('restore/nothing', 'nothing was delivered or restored yet', {
    exit: EXIT.refused,
    hint: 'anagnosis restore BACKUP puts a backup back; anagnosis backup list names them',
    next: ['anagnosis backup list'],
  })
}

function unknownBackup(name: string, all: readonly Backup[]): Failure {
  const near = nearest(
    name,
    all.map((each) => each.name),
  )
  const last = all.find(({ variant }) => variant === name)?.name
  const ofVariant =
    last === undefined
      ? 'anagnosis backup list names them'
      : `${name} is a variant, and its last backup is ${last}; anagnosis backup list names all`
  return new Failure('restore/unknown', `there is no backup ${name}`, {
    exit: EXIT.wrongCall,
    hint: near === undefined || last !== undefined ? ofVariant : `did you mean ${near}?`,
  })
}

/** Puts back what a backup holds: bytes, modes, times, and the vanilla of that time. */
export async function restore(
  workspace: Workspace,
  variant: Variant,
  backup: Backup,
  request: RestoreRequest,
): Promise<Restored | undefined> {
  await requireFolder(variant)
  return whileFinished(workspace, variant, async () => {
    const isOut = (path: string): boolean => isLeftOut(workspace.config, path)
    const isState = workspace.isState(variant.location)
    const kept = readTree(backup.location)
    refuseDamaged(backup, kept)
    const live = readTree(variant.location, (path) => isState(path) || isOut(path))
    const { steps: back, appeared } = stepsOf(kept, live, isOut)
    const steps = [...back, ...(request.removeLater ? appeared : [])]
    const later = request.removeLater ? ('removed' as const) : ('appeared' as const)
    const vanilla = { was: variant.vanilla, now: backup.vanilla }
    const restored: Restored = {
      variant: variant.name,
      backup: backup.name,
      before: '',
      vanilla,
      files: [
        ...back.map(({ path }) => ({ path, did: 'put-back' as const })),
        ...appeared.map(({ path }) => ({ path, did: later })),
      ],
    }
    refuseUnwritable(variant, steps)
    if (!(await request.confirm(restored))) return undefined
    const put = {
      kind: 'restore',
      source: backup.location,
      from: backup.name,
      vanilla,
      steps,
    } as const
    const made = await backUpAndPut(workspace, variant, put, { now: request.now })
    return { ...restored, before: made.backup.name }
  })
}

/** What is missing in a backup would be taken for what appeared later. */
function refuseDamaged({ name, location, files, bytes }: Backup, kept: FileTree): void {
  const there = [...kept.values()].filter(({ kind }) => kind === 'file')
  const size = there.reduce((sum, each) => sum + statSync(each.location).size, 0)
  if (there.length === files && size === bytes) return
  const held =
    there.length === files ? `${size} of ${bytes} bytes` : `${there.length} of ${files} files`
  throw new Failure('restore/damaged', `the backup ${name} was altered: it has ${held}`, {
    exit: EXIT.refused,
    path: location,
    hint: 'nothing was changed; take another backup, or copy what you need from that folder',
    next: ['anagnosis backup list'],
  })
}

function refuseUnwritable(variant: Variant, steps: readonly Step[]): void {
  const [closed] = unwritable(variant, steps)
  if (closed === undefined) return
  throw new Failure(closed.code, closed.message, {
    exit: EXIT.refused,
    hint: 'nothing was changed; see who may write there',
  })
}

/** What is put back, and what appeared later. */
function stepsOf(
  kept: FileTree,
  live: FileTree,
  isOut: (path: string) => boolean,
): { steps: Step[]; appeared: Step[] } {
  const steps: Step[] = []
  const isThing = (kind: string | undefined): boolean => kind === 'file' || kind === 'link'
  for (const [path, { kind, location }] of kept) {
    if (!isThing(kind) || isOut(path)) continue
    const now = live.get(path)
    const after = standing(location)
    const before = now === undefined ? null : standing(now.location)
    if (before === after && sameForm(location, now?.location)) continue
    const does = before === null ? 'add' : 'write'
    steps.push({ path, do: does, before, after, ...(before === after ? { form: true } : {}) })
  }
  const appeared = [...live]
    .filter(([path, { kind }]) => isThing(kind) && !kept.has(path))
    .map(([path, { location }]): Step => {
      return { path, do: 'remove', before: standing(location), after: null }
    })
  return { steps, appeared }
}

/** Whether two files have the same mode and time. */
function sameForm(one: string, other: string | undefined): boolean {
  if (other === undefined) return false
  const [a, b] = [lstatSync(one), lstatSync(other)]
  return (a.mode & 0o777) === (b.mode & 0o777) && Math.abs(a.mtimeMs - b.mtimeMs) < 2
}
