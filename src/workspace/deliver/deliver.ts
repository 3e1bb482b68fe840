import type { Delivered } from '../../core/facts/delivered.ts'
import type { Draft } from '../draft/draft.ts'
import { requireDraft } from '../draft/draft.ts'
import { EXIT, Failure } from '../failure.ts'
import { withLock } from '../io/lock.ts'
import { notLookedAt } from '../settle/state.ts'
import type { Variant, Workspace } from '../workspace.ts'
import { requireFolder } from '../workspace.ts'
import { arrivalFindings, makeParcel } from '../parcel/parcel.ts'
import { downloadNotes } from '../variant/download-age.ts'
import type { Journal, Step } from './journal.ts'
import { readJournal } from './journal.ts'
import { backUpAndPut, whileFinished } from './back-up-and-put.ts'
import { planDelivery } from './plan-delivery.ts'
import { PuttingLive } from './put-live.ts'

export interface DeliverRequest {
  now: Date
  dryRun: boolean
  /** Whether a release in trial is put live, too. */
  trialToo: boolean
  /** Kinds of checks whose findings do not stop it. */
  despite: readonly string[]
  /** Shown what would be done; whether it is to be done. */
  confirm: (delivered: Delivered) => Promise<boolean>
  /** The folder or the .zip archive into which a parcel is to be written, instead of putting the draft live. */
  parcel?: string | undefined
  progress?: ((done: number, total: number) => void) | undefined
}

/** Puts the open draft of a variant live, where nothing speaks against it. */
export async function deliver(
  workspace: Workspace,
  variant: Variant,
  request: DeliverRequest,
): Promise<Delivered> {
  if (variant.upload === true && request.parcel === undefined) throw needsParcel(variant)
  await requireFolder(variant)
  return whileFinished(workspace, variant, async () => {
    const draft = await requireDraft(workspace.layout, variant.name)
    const { steps, delivered } = await planned(workspace, variant, draft, request)
    if (delivered.refusals.length > 0 || request.dryRun) return delivered
    if (request.parcel !== undefined) {
      const list = await makeParcel(workspace, draft, steps, request.parcel)
      const counts = { upload: list.upload.length, delete: list.delete.length }
      return { ...delivered, parcel: { location: request.parcel, ...counts } }
    }
    if (!(await request.confirm(delivered))) return delivered
    return putLive(workspace, variant, draft, { delivered, steps, ...request })
  })
}

/** What a delivery would do, and what is to be said of it. */
async function planned(
  workspace: Workspace,
  variant: Variant,
  draft: Draft,
  { trialToo, despite, dryRun }: Pick<DeliverRequest, 'trialToo' | 'despite' | 'dryRun'>,
): Promise<{ steps: Step[]; delivered: Delivered }> {
  const { steps, same, refusals } = await planDelivery(workspace, variant, draft, {
    trialToo,
    despite,
  })
  const delivered: Delivered = {
    variant: variant.name,
    draft: draft.name,
    dryRun,
    despite: [...despite],
    backup: null,
    vanilla: { was: variant.vanilla, now: draft.record.to },
    files: deliveredFiles(steps),
    same,
    refusals,
    notLookedAt: notLookedAt(draft),
    reminders: [...(workspace.config.reminders ?? [])],
    notes: downloadNotes(variant),
    leftAlone: [],
  }
  return { steps, delivered }
}

/** What became of live files, by the steps of a journal. */
export function deliveredFiles(steps: readonly Step[]): Delivered['files'] {
  const did = { write: 'written', add: 'added', remove: 'removed' } as const
  return steps.map(({ path, do: does }) => ({ path, did: did[does] }))
}

/** Backs up what is live, and puts a draft in its place. */
async function putLive(
  workspace: Workspace,
  variant: Variant,
  draft: Draft,
  what: Pick<DeliverRequest, 'now' | 'progress'> & { delivered: Delivered; steps: Step[] },
): Promise<Delivered> {
  const { delivered, steps, now, progress } = what
  const { vanilla } = delivered
  const { despite } = delivered
  const put = {
    kind: 'deliver',
    source: draft.location,
    from: draft.name,
    vanilla,
    steps,
    ...(despite.length === 0 ? {} : { despite }),
  } as const
  const made = await backUpAndPut(workspace, variant, put, {
    now,
    progress,
    mayLack: (path) => !steps.some((step) => step.path === path),
  })
  return { ...delivered, backup: made.backup.name, leftAlone: made.notHeld }
}

function needsParcel({ name }: Variant): Failure {
  return new Failure('deliver/needs-parcel', `the folder of ${name} is a download of a host`, {
    exit: EXIT.wrongCall,
    hint: '--parcel DIR writes what is to be uploaded; --confirm FOLDER takes a fresh download after it',
  })
}

/**
 * Compares a fresh download of a host with the parcel that was uploaded. Where all is as it should be the draft is put
 * into the folder of the variant, and the variant moves; else nothing does.
 */
export async function confirmUpload(
  workspace: Workspace,
  variant: Variant,
  request: Pick<DeliverRequest, 'now' | 'trialToo' | 'despite'> & { folder: string },
): Promise<Delivered> {
  return whileFinished(workspace, variant, async () => {
    const draft = await requireDraft(workspace.layout, variant.name)
    const { parcel } = draft.record
    if (parcel === undefined) throw noParcel(variant)
    const call = { trialToo: request.trialToo, despite: request.despite, dryRun: false }
    const { steps, delivered } = await planned(workspace, variant, draft, call)
    const findings = arrivalFindings(draft, parcel, request.folder)
    const arrived = { ...delivered, findings }
    if (findings.length > 0 || delivered.refusals.length > 0) return arrived
    return putLive(workspace, variant, draft, { delivered: arrived, steps, now: request.now })
  })
}

function noParcel({ name }: Variant): Failure {
  return new Failure('deliver/no-parcel', `no parcel of ${name} was made`, {
    exit: EXIT.wrongCall,
    hint: `anagnosis deliver ${name} --parcel DIR makes one`,
  })
}

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
