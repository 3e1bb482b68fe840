import { dirname, join } from 'node:path'
import type { FileReport, LocatedProblem } from '../../core/report/report.ts'
import type { DraftFile } from '../draft/draft.ts'
import type { Draft } from '../draft/draft.ts'
import { requireDraft, writeRecord } from '../draft/draft.ts'
import type { Decided } from '../draft/decisions.ts'
import { Decisions } from '../draft/decisions.ts'
import type { Recarried } from '../draft/draft-trees.ts'
import { draftTrees, recarry } from '../draft/draft-trees.ts'
import { withEarlier } from '../draft/earlier.ts'
import { handEditsOf } from '../draft/hand-edits.ts'
import { hashOf } from '../draft/hash.ts'
import { inputBytes } from '../draft/key-values.ts'
import { recordedFile } from '../draft/record.ts'
import { systemFailure } from '../failure.ts'
import type { Variant, Workspace } from '../workspace.ts'

/** A decision that made nothing, and why. */
export interface NotApplied {
  decision: Decided
  why: string
}

/** What decisions would come to: what they make of files, and those that make nothing. */
export interface Attempt {
  decisions: Decisions
  paths: ReadonlySet<string>
  made: Recarried
  notApplied: NotApplied[]
}

/**
 * The open draft of a variant while it is decided: its decisions, its files. Every change of the decisions is
 * written at once, and the files of the draft after it. To be used under the lock.
 */
export class SettleSession {
  /** What cannot be taken over of what was edited by hand. */
  problems: LocatedProblem[] = []
  private known: ReturnType<typeof draftTrees> | undefined

  private constructor(
    readonly workspace: Workspace,
    readonly variant: Variant,
    readonly draft: Draft,
    private current: Decisions,
  ) {}

  /** Opens the draft, takes over what was edited by hand, and brings it up to date. */
  static async open(workspace: Workspace, variant: Variant): Promise<SettleSession> {
    const draft = await requireDraft(workspace.layout, variant.name)
    const decisions = await Decisions.read(workspace.decisionsOf(variant.name))
    const session = new SettleSession(workspace, variant, draft, decisions)
    await session.catchUp()
    return session
  }

  get decisions(): Decisions {
    return this.current
  }

  private async catchUp(): Promise<void> {
    const { workspace, variant, draft, current } = this
    const { decided, problems } = await handEditsOf(workspace, variant, draft, current)
    this.problems = problems
    const isBehind = draft.record.decisions !== current.hash
    if (decided.length === 0 && !isBehind) return
    const paths = new Set(decided.map(({ path }) => path))
    if (isBehind) {
      for (const { path } of current.all) paths.add(path)
      for (const { path, closed } of draft.record.files) if (closed.length > 0) paths.add(path)
    }
    await this.apply(current.with(decided), paths)
  }

  /** What decisions would come to, without writing anything. */
  async attempt(decided: readonly Decided[]): Promise<Attempt> {
    const decisions = this.current.with(decided)
    const paths = new Set(decided.map(({ path }) => path))
    const made = await this.carried(decisions, paths)
    const notApplied = decided.flatMap((decision) => {
      const file = made.report.files.find(({ path }) => path === decision.path)
      const why = whyNot(file, decision)
      return why === undefined ? [] : [{ decision, why }]
    })
    return { decisions, paths, made, notApplied }
  }

  /**
   * Makes these the decisions, and the files of the draft what they make of them.
   *
   * @param known what they make of these files, where that was tried already
   */
  async apply(decisions: Decisions, paths: ReadonlySet<string>, known?: Recarried): Promise<void> {
    const { workspace, draft } = this
    const { layout, disk } = workspace
    const recorded = new Set(draft.record.files.map(({ path }) => path))
    const { report, output } = known ?? (await this.carried(decisions, paths))
    if (decisions.hash !== this.current.hash) await decisions.write(disk)
    this.current = decisions
    const written = new Map<string, string | null>()
    const wholes = new Set(decisions.wholeFiles)
    for (const path of paths) {
      if (!recorded.has(path) || this.isLeftAlone(path)) continue
      const bytes = output.files.get(path)
      written.set(path, bytes === undefined ? null : hashOf(bytes))
      await this.write(join(draft.location, path), bytes)
      // an edit of the whole file by hand is told by what the carry made without it
      if (!wholes.has(path)) await this.write(join(layout.draftWritten(draft.name), path), bytes)
    }
    withEarlier(report)
    const files = new Map(report.files.map((file) => [file.path, file]))
    draft.record.files = draft.record.files.map((file) => {
      const made = files.get(file.path)
      const now = written.get(file.path)
      return made === undefined || now === undefined ? file : recordedAnew(file, made, now)
    })
    draft.record.decisions = decisions.hash
    // what is in a parcel is no longer what the draft is
    draft.record.state = 'open'
    delete draft.record.parcel
    await writeRecord(layout, draft, disk)
  }

  /** What the three inputs have of a file. */
  async inputs(path: string): Promise<ReturnType<typeof inputBytes>> {
    const was = this.draft.record.files.find((each) => each.path === path)?.was
    return inputBytes(await this.trees(), path, was)
  }

  /** What the draft was made from: read when it is first asked for, and once. */
  private trees(): ReturnType<typeof draftTrees> {
    this.known ??= draftTrees(this.workspace, this.variant, this.draft.record)
    return this.known
  }

  private async carried(decisions: Decisions, paths: ReadonlySet<string>): Promise<Recarried> {
    const draft = { record: this.draft.record, trees: await this.trees() }
    return recarry(this.workspace, this.variant, draft, paths, decisions.byPath)
  }

  /** A file that was edited by hand so that it cannot be taken over stays as it is. */
  private isLeftAlone(path: string): boolean {
    return this.problems.some((problem) => problem.path === path)
  }

  private async write(place: string, bytes: Uint8Array | undefined): Promise<void> {
    const { disk } = this.workspace
    try {
      if (bytes === undefined) await disk.remove(place)
      else {
        await disk.makeFolder(dirname(place))
        await disk.writeWhole(place, bytes)
      }
    } catch (error) {
      throw systemFailure(error, 'Writing', place)
    }
  }
}

function recordedAnew(before: DraftFile, report: FileReport, written: string | null): DraftFile {
  const { live, mine, kept, old } = before
  return recordedFile(report, {
    live,
    written,
    mine,
    ...(kept === undefined ? {} : { kept }),
    ...(old === undefined ? {} : { old }),
  })
}

/** Why a decision made nothing; undefined where it did. */
function whyNot(file: FileReport | undefined, { key }: Decided): string | undefined {
  const recalled = file?.recalled
  if (recalled === undefined) return 'the file is not merged'
  if (recalled.applied.some((each) => each.key === key)) return undefined
  const failed = recalled.notApplied.find(({ decision }) => decision.key === key)
  return failed?.why ?? 'other values stand there now'
}
