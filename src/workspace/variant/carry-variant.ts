import { lstatSync } from 'node:fs'
import { dirname, join } from 'node:path'
import type { CarriedVariant } from '../../core/facts/carried.ts'
import { nameOf } from '../../core/facts/release.ts'
import { habitsIn } from '../../core/grouping/habits.ts'
import type { Finding } from '../../core/report/finding.ts'
import type { CarryReport } from '../../core/report/report.ts'
import type { CarryRun } from '../carry/carry-trees.ts'
import { carryTrees } from '../carry/carry-trees.ts'
import { inputsAlike } from '../carry/inputs-alike.ts'
import type { ResultWriter } from '../carry/output.ts'
import { NO_OUTPUT, Output } from '../carry/output.ts'
import { findBrokenTogether } from '../check/broken-together.ts'
import type { Decided } from '../draft/decisions.ts'
import { Decisions } from '../draft/decisions.ts'
import type { Draft, DraftFile, DraftRecord } from '../draft/draft.ts'
import { listDrafts, removeDraft, writeRecord } from '../draft/draft.ts'
import { carryInMemory, identitiesOf } from '../draft/draft-trees.ts'
import { handEditsOf } from '../draft/hand-edits.ts'
import { hashOfFile } from '../draft/hash.ts'
import { refuseHeld } from '../draft/held.ts'
import { rebasedHandEdit, rebasedReport } from '../draft/rebase-hand-edits.ts'
import { recordedFiles, recordedGroups, recordedIdentities } from '../draft/record.ts'
import { withEarlier } from '../draft/earlier.ts'
import { refuseUnfinished } from '../deliver/journal.ts'
import { EXIT, Failure, systemFailure } from '../failure.ts'
import { withLock } from '../io/lock.ts'
import { namesIn } from '../names-in.ts'
import { freeTimeName } from '../state/time-name.ts'
import { readBytes } from '../tree.ts'
import type { Variant, Workspace } from '../workspace.ts'
import { forecastOf } from './forecast.ts'
import { identityNotes, recalledNotes } from './notes.ts'
import type { CarryChoice, PlannedCarry } from './plan-carry.ts'
import { planCarry } from './plan-carry.ts'

export interface VariantRequest extends CarryRun, CarryChoice {
  now: Date
  /** Whether nothing is written: the report is a forecast. */
  dryRun: boolean
  explain?: string | undefined
  /** Shown the report before anything is written; what it throws ends the run with nothing left behind. */
  beforeWritten?: (report: CarryReport) => void
  signal?: AbortSignal | undefined
}

/** Carries a variant to a release, into a draft. Nothing live is touched. */
export async function carryVariant(
  workspace: Workspace,
  variant: Variant,
  request: VariantRequest,
): Promise<CarriedVariant> {
  refuseUnfinished(workspace.layout, variant.name)
  if (request.dryRun !== true) refuseHeld(workspace.layout, variant.name)
  if (request.dryRun) return new VariantCarry(workspace, variant, request).run(undefined)
  const { layout, disk } = workspace
  return withLock(
    layout.root,
    async () => {
      await sweep(workspace)
      const name = await freeTimeName(variant.name, request.now, (each) => layout.draft(each))
      await disk.makeFolder(layout.drafts).catch((error: unknown) => {
        throw systemFailure(error, 'Making the folder', layout.drafts)
      })
      return new VariantCarry(workspace, variant, request).run(name)
    },
    disk,
  )
}

/** Removes what a run that was killed left behind, which is part of no draft. */
async function sweep({ layout, disk }: Workspace): Promise<void> {
  const all = new Set(namesIn(layout.drafts))
  const isKnown = (name: string): boolean => all.has(`${name}.json`)
  for (const name of all) {
    const written = /^\.(.*)\.written$/.exec(name)?.[1]
    const isLeft = name.startsWith('.')
      ? written === undefined || !isKnown(written)
      : !name.endsWith('.json') && !isKnown(name)
    if (isLeft) await disk.remove(join(layout.drafts, name))
  }
}

class VariantCarry {
  constructor(
    private readonly workspace: Workspace,
    private readonly variant: Variant,
    private readonly request: VariantRequest,
  ) {}

  /** @param name of the draft; undefined for a forecast */
  async run(name: string | undefined): Promise<CarriedVariant> {
    const { workspace, variant, request } = this
    const planned = await planCarry(workspace, variant, request)
    const drafts = await listDrafts(workspace.layout, variant.name)
    const open = drafts.find(({ record }) => record.state !== 'delivered')
    const known = await Decisions.read(workspace.decisionsOf(variant.name))
    const hand = open === undefined ? [] : await this.handEdits(open, known)
    let decisions = known.with(hand)
    const before = drafts[0] === undefined ? new Map() : identitiesOf(drafts[0].record)
    const output =
      name === undefined
        ? NO_OUTPUT
        : Output.prepare(workspace.layout.draft(name), false, workspace.disk)
    try {
      const report = await carryTrees(
        {
          trees: planned.trees,
          closed: [new Map(), new Map(), planned.mine.closed],
          config: workspace.config,
          oldUnknown: planned.old === 'none',
          sparse: variant.sparse,
          hasNoLeftOut: true,
          explain: request.explain,
          remembered: decisions.byPath,
          identities: before,
          progress: request.progress,
          signal: request.signal,
          crew: request.crew,
        },
        output,
      )
      const rebased = await this.rebase(open, decisions, planned, report, output.location)
      decisions = decisions.with(rebased)
      withEarlier(report)
      report.findings = await this.broken(planned, report, output)
      report.problems.unshift(
        // carried to where it stands, a variant gets back what was reset
        ...(planned.old === 'none' || planned.from === nameOf(planned.to)
          ? []
          : inputsAlike(report)),
        ...planned.notes,
        ...recalledNotes(report),
        ...identityNotes(report, before),
      )
      request.signal?.throwIfAborted()
      request.beforeWritten?.(report)
      if (name !== undefined) {
        if (hand.length + rebased.length > 0) await decisions.write(workspace.disk)
        const draft = { decisions, before: drafts[0], location: output.location }
        const record = await this.keep(name, planned, report, draft)
        output.commit()
        // a folder without its record is no draft: that is written last, and then the one before goes
        await writeRecord(workspace.layout, { name, record }, workspace.disk)
        await this.replace(drafts)
      }
      return this.told(name, planned, report, hand)
    } catch (error) {
      output.discard()
      throw error
    }
  }

  /** What two sides broke together; without old nothing is known of that. */
  private broken(
    { old, trees }: PlannedCarry,
    report: CarryReport,
    { location }: ResultWriter,
  ): Promise<readonly Finding[]> {
    if (old === 'none') return Promise.resolve([])
    return findBrokenTogether(report, { trees, config: this.workspace.config, location })
  }

  /** What was edited by hand in the open draft. @throws Failure where that would be lost */
  private async handEdits(open: Draft, known: Decisions): Promise<Decided[]> {
    const { name } = this.variant
    const { decided, problems } = await handEditsOf(this.workspace, this.variant, open, known)
    const [problem] = problems
    if (problem === undefined) return decided
    throw new Failure('draft/hand-edits', `${problem.path} ${problem.message}`, {
      exit: EXIT.refused,
      path: problem.path,
      hint: `${problem.hint ?? ''}; anagnosis carry ${name} --drop gives the draft up, with this edit`,
      next: [`anagnosis carry ${name} --drop`],
    })
  }

  /** Brings edits by hand of whole files in the open draft onto the new one; gives them as decisions. */
  private async rebase(
    open: Draft | undefined,
    decisions: Decisions,
    { trees, to }: PlannedCarry,
    report: CarryReport,
    location: string | undefined,
  ): Promise<Decided[]> {
    const { workspace } = this
    if (open === undefined || location === undefined) return []
    const made: Decided[] = []
    for (const [at, file] of report.files.entries()) {
      const isLeft = file.recalled?.notApplied.some(({ decision }) => decision.key === '') === true
      const decision = decisions.all.find(({ path, key }) => path === file.path && key === '')
      if (!isLeft || decision?.by !== 'hand') continue
      const result = { location, trees, file, to: nameOf(to) }
      const rebased = await rebasedHandEdit(workspace, open, decision, result)
      if (rebased === undefined) continue
      await workspace.disk.remove(join(location, file.path))
      await workspace.disk.write(join(location, file.path), rebased.bytes)
      const told = rebasedReport(file, rebased.decision)
      report.files[at] = told.report
      report.problems.push(...rebased.notes, ...told.notes)
      made.push(rebased.decision)
    }
    return made
  }

  /** Keeps what the carry wrote beside the draft, and gives what is known of it. */
  private async keep(
    name: string,
    planned: PlannedCarry,
    report: CarryReport,
    draft: { decisions: Decisions; before: Draft | undefined; location: string | undefined },
  ): Promise<DraftRecord> {
    const { variant, request } = this
    const { decisions, before, location = '' } = draft
    const files = this.files(planned, report, location)
    const groups = recordedGroups(report)
    const lookedAt = before?.record.lookedAt ?? []
    const record: DraftRecord = {
      schema: 1,
      variant: variant.name,
      from: planned.from,
      to: nameOf(planned.to),
      at: request.now.toISOString(),
      state: 'open',
      sparse: variant.sparse === true,
      old: planned.old,
      files,
      groups,
      habits: habitsIn(report.files),
      lookedAt: groups.map(({ rows }) => rows).filter((rows) => lookedAt.includes(rows)),
      decisions: decisions.hash,
      identities: recordedIdentities(report),
    }
    await this.keepWritten(
      name,
      files,
      location,
      await this.withoutHand(
        planned,
        decisions,
        files,
        before === undefined ? new Map() : identitiesOf(before.record),
      ),
    )
    return record
  }

  private files(planned: PlannedCarry, report: CarryReport, location: string): DraftFile[] {
    const { tree, live } = planned.mine
    const kept = new Map(planned.mine.reset.map((each) => [each.path, each.kept.backup.name]))
    return recordedFiles(report, (path, was) => {
      const at = tree.has(path) ? path : (was ?? path)
      const from = kept.get(at)
      const old = planned.guessed.get(at)
      const written = { kind: 'file', location: join(location, ...path.split('/')) } as const
      return {
        live: hashOfFile(live.get(at)),
        written: isLink(written.location) ? null : hashOfFile(written),
        mine: from === undefined ? 'live' : 'kept',
        ...(from === undefined ? {} : { kept: from }),
        ...(old === undefined ? {} : { old }),
      }
    })
  }

  /** Files that are as somebody edited them by hand, as the carry makes them without that. */
  private async withoutHand(
    { trees, old }: PlannedCarry,
    decisions: Decisions,
    files: readonly DraftFile[],
    identities: ReturnType<typeof identitiesOf>,
  ): Promise<ReadonlyMap<string, Uint8Array>> {
    const all = new Set(files.map(({ path }) => path))
    const paths = new Set(decisions.wholeFiles.filter((path) => all.has(path)))
    if (paths.size === 0) return new Map()
    const { workspace, variant } = this
    const keyed = decisions.without(({ key, take }) => key === '' && take === 'source')
    const how = { trees, oldUnknown: old === 'none', sparse: variant.sparse, identities }
    const { output } = await carryInMemory(workspace, how, paths, keyed.byPath)
    return output.files
  }

  /** Keeps what no release has as it was written, so that an edit by hand is told by it. */
  private async keepWritten(
    name: string,
    files: readonly DraftFile[],
    location: string,
    pristine: ReadonlyMap<string, Uint8Array>,
  ): Promise<void> {
    const { layout, disk } = this.workspace
    for (const { path, outcome, written } of files) {
      if (written === null || outcome === 'vanilla' || outcome === 'added' || outcome === 'same')
        continue
      const place = join(layout.draftWritten(name), path)
      try {
        await disk.makeFolder(dirname(place))
        await disk.write(place, pristine.get(path) ?? readBytes(join(location, path)))
      } catch (error) {
        throw systemFailure(error, 'Writing', place)
      }
    }
  }

  /** What was open before is taken away: a variant has one open draft at most. */
  private async replace(drafts: readonly Draft[]): Promise<void> {
    const { layout, disk } = this.workspace
    for (const { name, record } of drafts)
      if (record.state !== 'delivered') await removeDraft(layout, name, disk)
  }

  private told(
    name: string | undefined,
    { from, to, old, mine }: PlannedCarry,
    report: CarryReport,
    hand: readonly Decided[],
  ): CarriedVariant {
    const { variant, workspace } = this
    return {
      variant: variant.name,
      from: old === 'guess' ? 'guess' : from,
      to: nameOf(to),
      draft: name === undefined ? null : { name, location: workspace.layout.draft(name) },
      mine: variant.folder,
      report,
      forecast: forecastOf(report),
      gone: mine.gone.length,
      handEdited: [...new Set(hand.map(({ path }) => path))],
    }
  }
}

function isLink(place: string): boolean {
  return lstatSync(place, { throwIfNoEntry: false })?.isSymbolicLink() === true
}
