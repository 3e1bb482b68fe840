import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { unmarkBackup } from '../backup/backup.ts'
import { asFailure, EXIT, Failure, systemFailure } from '../failure.ts'
import { listDrafts, removeDraft, writeRecord } from '../draft/draft.ts'
import { CONFIG_NAME } from '../state/layout.ts'
import type { Workspace } from '../workspace.ts'
import { withVanilla } from './config-vanilla.ts'
import type { Journal, Step } from './journal.ts'
import { unfinished, writeJournal } from './journal.ts'
import { LiveFolder } from './live-folder.ts'

/**
 * Puts files live by a journal: all are written beside first, then each takes its place; the config follows. Where
 * anything fails all is put back. A run that is killed leaves the journal, by which `finish` or `undo` comes to an end.
 */
export class PuttingLive {
  private readonly live: LiveFolder

  constructor(
    private readonly workspace: Workspace,
    private readonly journal: Journal,
  ) {
    this.live = new LiveFolder(journal.folder, journal.id, workspace.disk)
  }

  /** Does it all. @throws Failure where something failed; then what was live is live again */
  async run(): Promise<void> {
    const { layout, disk } = this.workspace
    try {
      await writeJournal(layout, this.journal, disk)
      await this.finish()
    } catch (error) {
      await this.undo().catch((cause: unknown) => {
        throw leftUndone(this.journal.variant, asFailure(error), cause)
      })
      throw error
    }
  }

  /** Does what is not done yet. @throws Failure where a file is neither what it was nor what it is to be */
  async finish(): Promise<void> {
    this.refuseStrange()
    const waiting = this.numbered().filter(({ step }) => step.form === true || !this.isDone(step))
    // an undo that was killed may have left something beside
    for (const { step, number } of this.numbered()) this.live.unstage(step.path, number)
    for (const { step, number } of waiting)
      if (step.do !== 'remove')
        this.live.stage(step.path, join(this.journal.source, step.path), number)
    for (const { step, number } of waiting) {
      if (step.do === 'remove') await this.live.remove(step.path)
      else await this.live.put(step.path, number)
    }
    for (const { step } of waiting) if (step.do === 'remove') this.live.removeEmpty(step.path)
    this.verify()
    await this.move(this.journal.vanilla.now)
    await this.close()
  }

  /** Puts back what was there before. @throws Failure where a file is neither what it was nor what it is to be */
  async undo(): Promise<void> {
    this.refuseStrange()
    const { backup } = this.journal
    const kept = this.workspace.layout.backup(backup)
    for (const { step, number } of this.numbered()) {
      this.live.unstage(step.path, number)
      if (step.form !== true && this.live.standing(step.path) === step.before) continue
      if (step.before === null) {
        await this.live.remove(step.path)
        continue
      }
      this.live.stage(step.path, join(kept, step.path), number)
      await this.live.put(step.path, number)
    }
    for (const { step } of this.numbered()) if (step.do === 'add') this.live.removeEmpty(step.path)
    await this.move(this.journal.vanilla.was, this.journal.written)
    await unmarkBackup(this.workspace.layout, backup, this.workspace.disk)
    await this.removeJournal()
  }

  private numbered(): { step: Step; number: number }[] {
    return this.journal.steps.map((step, number) => ({ step, number }))
  }

  private isDone({ path, after }: Step): boolean {
    return this.live.standing(path) === after
  }

  /** A file that is something else now was changed by somebody in between: it is not touched. */
  private refuseStrange(): void {
    const { variant } = this.journal
    const strange = this.journal.steps.find(({ path, before, after }) => {
      const now = this.live.standing(path)
      return now !== before && now !== after
    })
    if (strange === undefined) return
    throw new Failure(
      'deliver/changed-between',
      `${strange.path} is neither what it was before the delivery nor what it is to be`,
      {
        exit: EXIT.refused,
        path: strange.path,
        hint: `copy it away, or put ${this.journal.backup} back by hand; then --undo or --finish ends it`,
        next: [`anagnosis deliver ${variant} --undo`, `anagnosis deliver ${variant} --finish`],
      },
    )
  }

  /** Reads again what was put live. */
  private verify(): void {
    const wrong = this.journal.steps.find((step) => !this.isDone(step))
    if (wrong === undefined) return
    throw new Failure('deliver/not-as-written', `${wrong.path} is not what was written there`, {
      exit: EXIT.unexpected,
      path: wrong.path,
      hint: 'the disk may be failing; what was live before is in the backup',
    })
  }

  /** Says in the config which vanilla the variant stands on; every other byte stays. */
  private async move(to: string, written?: string): Promise<void> {
    const path = join(this.workspace.root, CONFIG_NAME)
    const text = readFileSync(path, 'utf8')
    const moved = withVanilla(text, this.journal.variant, to, written)
    if (moved === text) return
    await this.workspace.disk.writeWhole(path, moved).catch((error: unknown) => {
      throw systemFailure(error, 'Writing', path)
    })
  }

  /** What is done is told to the draft, and the journal goes. */
  private async close(): Promise<void> {
    const { layout, disk } = this.workspace
    const { kind, variant, from, at, backup, despite } = this.journal
    if (kind === 'deliver') {
      for (const { name, record } of await listDrafts(layout, variant)) {
        if (name === from) {
          const delivered = { at, backup, ...(despite === undefined ? {} : { despite }) }
          await writeRecord(
            layout,
            { name, record: { ...record, state: 'delivered', delivered } },
            disk,
          )
        } else if (record.state === 'delivered') await removeDraft(layout, name, disk)
      }
    }
    await this.removeJournal()
  }

  private async removeJournal(): Promise<void> {
    const { layout, disk } = this.workspace
    const path = layout.journal(this.journal.variant)
    if (existsSync(path)) await disk.remove(path)
  }
}

/** A delivery that failed, and could not be put back either. */
function leftUndone(variant: string, { code, message, exit }: Failure, cause: unknown): Failure {
  const { hint, next } = unfinished(variant).details
  return new Failure(code, `${message}; and what was live could not be put back wholly`, {
    exit,
    cause,
    ...(hint === undefined ? {} : { hint }),
    ...(next === undefined ? {} : { next }),
  })
}
