import { accessSync, constants, existsSync, lstatSync, statSync } from 'node:fs'
import { dirname, join } from 'node:path'
import type { Refusal } from '../../core/facts/delivered.ts'
import type { Finding } from '../../core/report/finding.ts'
import { gather } from '../../core/document/gather.ts'
import { shortList } from '../../core/document/short-list.ts'
import { configChecks } from '../check/check.ts'
import { targetOfDraft } from '../check/check-target.ts'
import { Decisions } from '../draft/decisions.ts'
import type { Draft, DraftFile } from '../draft/draft.ts'
import { strangeFiles } from '../draft/hand-edits.ts'
import { openCount } from '../settle/state.ts'
import { releaseNamed } from '../store/release.ts'
import { Failure, systemFailure } from '../failure.ts'
import { readTree } from '../tree.ts'
import type { Variant, Workspace } from '../workspace.ts'
import type { Step } from './journal.ts'
import { standing } from './live-folder.ts'
import { roomAt } from './room.ts'

/** What a delivery passes over. */
export interface DeliveryOptions {
  /** Whether a release in trial is put live, too. */
  trialToo: boolean
  /** Kinds of checks whose findings do not stop it. */
  despite: readonly string[]
}

/** What a delivery would do, and why it may not. */
export interface PlannedDelivery {
  steps: Step[]
  /** Files of the draft that are live already. */
  same: number
  refusals: Refusal[]
}

/**
 * What putting a draft live does: a file is written where the draft differs from what the carry read, and removed
 * where the carry dropped or renamed it. All else stays.
 */
export async function planDelivery(
  workspace: Workspace,
  variant: Variant,
  draft: Draft,
  options: DeliveryOptions,
): Promise<PlannedDelivery> {
  const planned: PlannedDelivery = { steps: [], same: 0, refusals: [] }
  for (const file of draft.record.files) planFile(variant, draft, file, planned)
  planned.refusals.push(
    ...(await refusalsOfDraft(workspace, variant, draft, options.trialToo)),
    ...(await failingChecks(workspace, variant, draft, options.despite)),
    ...unwritable(variant, planned.steps),
    ...tooLittleRoom(workspace, variant, draft, planned.steps),
  )
  return planned
}

/** The folder of a path of the result, in the live folder. */
function liveAt({ location }: Variant, path: string): string {
  return join(location, ...path.split('/'))
}

function planFile(variant: Variant, draft: Draft, file: DraftFile, into: PlannedDelivery): void {
  const { path, was, outcome, written, live } = file
  const place = join(draft.location, ...path.split('/'))
  const after =
    written === null && lstatSync(place, { throwIfNoEntry: false })?.isSymbolicLink() !== true
      ? null
      : standing(place)
  // what the draft lacks is told of the draft as a whole
  if (written !== null && after !== null && after !== written) into.refusals.push(edited(path))
  const isRenamed = was !== undefined && was !== path && after !== null
  if (after !== null && (isRenamed || after !== live)) {
    const before = isRenamed ? null : live
    add(variant, { path, do: before === null ? 'add' : 'write', before, after }, into)
  } else if (after !== null) into.same++
  if (outcome === 'removed' && live !== null)
    add(variant, { path, do: 'remove', before: live, after: null }, into)
  if (isRenamed && live !== null)
    add(variant, { path: was, do: 'remove', before: live, after: null }, into)
}

function add(variant: Variant, step: Step, into: PlannedDelivery): void {
  const { path, before } = step
  try {
    const now = standing(liveAt(variant, path))
    if (now === step.after) {
      into.same++
      return
    }
    if (now === before) into.steps.push(step)
    else into.refusals.push(changed(path, before === null))
  } catch (error) {
    if (!(error instanceof Failure)) throw error
    into.refusals.push({ code: 'deliver/unreadable', message: error.message, path })
  }
}

function changed(path: string, isNew: boolean): Refusal {
  const message = isNew
    ? 'appeared in the live folder since the carry, and the draft would add another'
    : 'is not what the carry read'
  return { code: 'deliver/changed', message: `${path} ${message}`, path }
}

function edited(path: string): Refusal {
  const message = `${path} was edited in the draft; settle --list takes that over`
  return { code: 'deliver/behind', message, path }
}

async function refusalsOfDraft(
  workspace: Workspace,
  variant: Variant,
  draft: Draft,
  trialToo: boolean,
): Promise<Refusal[]> {
  const { location, record } = draft
  const refusals: Refusal[] = []
  const refuse = (code: string, message: string): void => {
    refusals.push({ code, message, path: null })
  }
  const open = openCount(record)
  if (open > 0) {
    const are = open === 1 ? '1 key of the draft is' : `${open} keys of the draft are`
    refuse('deliver/open-questions', `${are} open`)
  }
  const gone = record.files
    .filter(({ written, path }) => written !== null && !existsSync(join(location, path)))
    .map(({ path }) => path)
  if (gone.length > 0) refuse('draft/incomplete', `the draft lacks ${shortList(gone)}`)
  for (const path of strangeFiles(draft)) {
    const message = `${path} was put into the draft by hand; put it into the live folder instead`
    refusals.push({ code: 'draft/strange-file', message, path })
  }
  const decisions = await Decisions.read(workspace.decisionsOf(variant.name))
  if (decisions.hash !== record.decisions)
    refuse(
      'deliver/behind',
      'the draft is behind what was decided since; settle --list brings it up',
    )
  const release = releaseNamed(await workspace.store.releases(), record.to)
  if (release.revision !== null && !trialToo)
    refuse('deliver/trial', `${record.to} is a trial; --trial-too puts it live all the same`)
  return refusals
}

/** One refusal for each kind of check that finds something in the draft. */
async function failingChecks(
  workspace: Workspace,
  variant: Variant,
  draft: Draft,
  despite: readonly string[],
): Promise<Refusal[]> {
  const { config } = workspace
  const target = await targetOfDraft(workspace, variant, draft)
  const { findings } = await configChecks(target, config)
  const kinds = new Map<string, Finding[]>()
  for (const each of findings) if (!despite.includes(each.check)) gather(kinds, each.check, each)
  return [...kinds].map(([kind, [first, ...others]]) => {
    const place = [first?.path, first?.line].filter((part) => part != null).join(':')
    const more = others.length === 0 ? '' : `, and ${others.length} more`
    const message = `${kind} fails: ${place}  ${first?.message ?? ''}${more}`
    return { code: 'deliver/check-fails', message, path: first?.path ?? null }
  })
}

/** Places that may not be written, before anything is. */
export function unwritable(variant: Variant, steps: readonly Step[]): Refusal[] {
  const folders = new Set(steps.map(({ path }) => existingFolder(dirname(liveAt(variant, path)))))
  return [...folders].flatMap((folder) => {
    try {
      accessSync(folder, constants.W_OK)
      return []
    } catch (error) {
      const failure = systemFailure(error, 'Writing into', folder)
      const message = failure instanceof Failure ? failure.message : String(error)
      return [{ code: 'deliver/not-writable', message, path: null }]
    }
  })
}

/** The nearest folder from a place outwards that is there. */
function existingFolder(place: string): string {
  for (let at = place; ; at = dirname(at)) if (existsSync(at) || dirname(at) === at) return at
}

function bytesIn(folder: string): number {
  return [...readTree(folder).values()].reduce(
    (sum, { kind, location }) => sum + (kind === 'file' ? statSync(location).size : 0),
    0,
  )
}

/** The backup and the files beside are counted before anything is written. */
function tooLittleRoom(
  { layout }: Workspace,
  variant: Variant,
  draft: Draft,
  steps: readonly Step[],
): Refusal[] {
  const staged = steps
    .filter((step) => step.do !== 'remove')
    .map(({ path }) => join(draft.location, path))
    .filter((place) => existsSync(place))
    .reduce((sum, place) => sum + statSync(place).size, 0)
  const needs = [
    { folder: variant.location, bytes: staged },
    { folder: layout.root, bytes: bytesIn(variant.location) },
  ]
  return needs.flatMap(({ folder, bytes }) => {
    const room = roomAt(folder)
    if (room === undefined || room >= bytes) return []
    const message = `${folder} has room for ${room} bytes, and ${bytes} are needed`
    return [{ code: 'deliver/no-room', message, path: null }]
  })
}
