import { realpathSync } from 'node:fs'
import type { Delivered } from '../../core/facts/delivered.ts'
import { copyLive } from '../backup/backup.ts'
import { ruleFor } from '../config/file-rule.ts'
import { requireDraft } from '../draft/draft.ts'
import { EXIT, Failure } from '../failure.ts'
import { withLock } from '../io/lock.ts'
import { notLookedAt } from '../settle/state.ts'
import type { Variant, Workspace } from '../workspace.ts'
import { requireFolder } from '../workspace.ts'
import type { Journal } from './journal.ts'
import { readJournal, refuseUnfinished } from './journal.ts'
import { planDelivery } from './plan-delivery.ts'
import { PuttingLive } from './put-live.ts'

export interface DeliverRequest {
  now: Date
  dryRun: boolean
  /** Whether a release in trial is put live, too. */
  trialToo: boolean
  /** Shown what would be done; whether it is to be done. */
  confirm: (delivered: Delivered) => Promise<boolean>
  progress?: ((done: number, total: number) => void) | undefined
}

/** Puts the open draft of a variant live, where nothing speaks against it. */
export async function deliver(
  workspace: Workspace,
  variant: Variant,
  request: DeliverRequest,
): Promise<Delivered> {
  const { layout, disk } = workspace
  refuseUnfinished(layout, variant.name)
  await requireFolder(variant)
  return withLock(
    layout.root,
    async () => {
      const draft = await requireDraft(layout, variant.name)
      const { record } = draft
      const planned = await planDelivery(workspace, variant, draft, request)
      const { steps, same, refusals } = planned
      const delivered: Delivered = {
        variant: variant.name,
        draft: draft.name,
        dryRun: request.dryRun,
        backup: null,
        vanilla: { was: variant.vanilla, now: record.to },
        files: steps.map(({ path, do: does }) => ({ path, did: DID[does] })),
        same,
        refusals,
        notLookedAt: notLookedAt(draft),
        reminders: [...(workspace.config.reminders ?? [])],
        leftAlone: [],
      }
      if (refusals.length > 0 || request.dryRun) return delivered
      if (!(await request.confirm(delivered))) return delivered
      const made = await copyLive(workspace, variant, {
        now: request.now,
        before: { what: 'deliver', from: draft.name },
        isLeftOut: (path) => ruleFor(workspace.config, path)?.take === 'leave-out',
        progress: request.progress,
      })
      const journal: Journal = {
        schema: 1,
        kind: 'deliver',
        variant: variant.name,
        at: request.now.toISOString(),
        id: request.now.getTime().toString(36),
        folder: realpathSync(variant.location),
        source: draft.location,
        from: draft.name,
        backup: made.backup.name,
        vanilla: delivered.vanilla,
        steps,
      }
      await new PuttingLive(workspace, journal).run()
      return { ...delivered, backup: made.backup.name, leftAlone: made.notHeld }
    },
    disk,
  )
}

const DID = { write: 'written', add: 'added', remove: 'removed' } as const

/** Ends a delivery or a restore that was killed. @throws Failure where there is none */
export async function endUnfinished(
  workspace: Workspace,
  variant: Variant,
  how: 'finish' | 'undo',
): Promise<Journal> {
  const { layout, disk } = workspace
  return withLock(
    layout.root,
    async () => {
      const journal = await readJournal(layout, variant.name)
      if (journal === undefined) throw nothingUnfinished(variant.name)
      const putting = new PuttingLive(workspace, journal)
      await (how === 'finish' ? putting.finish() : putting.undo())
      return journal
    },
    disk,
  )
}

function nothingUnfinished(variant: string): Failure {
  return new Failure('deliver/nothing-unfinished', `no delivery of ${variant} is unfinished`, {
    exit: EXIT.wrongCall,
    hint: 'anagnosis overview says where it stands',
  })
}
