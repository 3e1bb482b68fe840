import { z } from 'zod'
import type {
  GroupRow,
  QuestionDetail,
  ScreenAnswer,
  ScreenData,
  ScreenGroup,
  ScreenPort,
  ScreenPosition,
  SourceLine,
} from '../../core/facts/screen.ts'
import type { ClosedKey } from '../../core/facts/settled.ts'
import { groupChanges } from '../../core/grouping/group.ts'
import type { Question } from '../../core/grouping/questions.ts'
import type { Change } from '../../core/report/ledger.ts'
import { MINE, NEW } from '../../core/document/sides.ts'
import { mergedReport } from '../carry/merged-report.ts'
import { ruleFor } from '../config/file-rule.ts'
import { decode } from '../content/text-file.ts'
import { whileFinished } from '../deliver/back-up-and-put.ts'
import type { Decided } from '../draft/decisions.ts'
import { writeRecord } from '../draft/draft.ts'
import { hold } from '../io/lock.ts'
import { readState, writeState } from '../state/state-file.ts'
import type { Variant, Workspace } from '../workspace.ts'
import { Answering } from './answering.ts'
import { SettleSession } from './session.ts'
import { sheetOf } from './sheet.ts'
import { closedKeys, openQuestions } from './state.ts'

const position = z.object({
  schema: z.literal(1),
  at: z.string(),
  isInGroups: z.boolean(),
  aside: z.array(z.string()),
})

/** An answer, and how its keys were decided before. */
interface Given {
  keys: { path: string; key: string }[]
  before: Decided[]
}

/**
 * The draft of a variant for the screen on which it is settled. Each call opens the draft anew under the lock, so that nothing is lost
 * whatever happens to the draft, the window or the disk between two of them.
 */
export class ScreenSettling implements ScreenPort {
  private readonly given: Given[] = []

  private constructor(
    private readonly workspace: Workspace,
    private readonly variant: Variant,
    private readonly release: () => Promise<void>,
  ) {}

  /** Holds the draft, so that no other run settles it meanwhile. @throws Failure where another one does, or there is no draft */
  static async open(workspace: Workspace, variant: Variant): Promise<ScreenSettling> {
    const { layout, disk } = workspace
    const release = await whileFinished(workspace, variant, async () => {
      await SettleSession.open(workspace, variant)
      return hold(layout.draftHeld(variant.name), disk)
    })
    return new ScreenSettling(workspace, variant, release)
  }

  close(): Promise<void> {
    return this.release()
  }

  load(): Promise<ScreenData> {
    return this.inSession((session) => Promise.resolve(dataOf(session)))
  }

  answer(answers: readonly ScreenAnswer[]): Promise<{ data: ScreenData; closed: ClosedKey[] }> {
    return this.inSession(async (session) => {
      const isAnswered = new Set(answers.map(({ path, key }) => `${path}\0${key}`))
      const before = session.decisions.all.filter(({ path, key }) =>
        isAnswered.has(`${path}\0${key}`),
      )
      const closed = await new Answering(session).each(answers)
      this.given.push({ keys: closed.map(({ path, key }) => ({ path, key })), before })
      return { data: dataOf(session), closed }
    })
  }

  undo(): Promise<{ data: ScreenData; keys: number }> {
    return this.inSession(async (session) => {
      const last = this.given.at(-1)
      if (last === undefined) return { data: dataOf(session), keys: 0 }
      await new Answering(session).takeBack(last.keys, last.before)
      this.given.pop()
      return { data: dataOf(session), keys: last.keys.length }
    })
  }

  look(rows: readonly string[]): Promise<ScreenData> {
    return this.inSession(async (session) => {
      const { record } = session.draft
      record.lookedAt.push(...rows.filter((each) => !record.lookedAt.includes(each)))
      await writeRecord(this.workspace.layout, session.draft, this.workspace.disk)
      return dataOf(session)
    })
  }

  detail({ example }: Question): Promise<QuestionDetail> {
    return this.inSession(async (session) => {
      const { path, key, at } = example
      const inputs = await session.inputs(path)
      return {
        sheet: await sheetOf(session, path, key),
        lines: {
          new: lineIn(inputs[NEW], at.new?.line),
          mine: lineIn(inputs[MINE], at.mine?.line),
        },
      }
    })
  }

  /** The changes of a group: of one file, or of all files below the path that they share. */
  rows(group: ScreenGroup): Promise<GroupRow[]> {
    return this.inSession(async (session) => {
      const isOf = (path: string): boolean =>
        group.path === '' || path === group.path || path.startsWith(`${group.path}/`)
      const files: { path: string; changes: Change[] }[] = []
      for (const { path, outcome } of session.draft.record.files) {
        if (!isOf(path) || outcome === 'same' || outcome === 'unread') continue
        const changes = await changesIn(session, path)
        if (changes.length > 0) files.push({ path, changes })
      }
      const results = new Map(
        files.flatMap(({ path, changes }) =>
          changes.map(({ key, mine, result }) => [`${path}\0${key}`, { mine, result }]),
        ),
      )
      return groupChanges(files)
        .filter(({ pattern, kind }) => pattern === group.pattern && kind === group.kind)
        .flatMap(({ parts }) => parts.flatMap(({ changes }) => changes))
        .map(({ path, key, old, new: fresh }) => {
          const { mine = null, result = null } = results.get(`${path}\0${key}`) ?? {}
          return { path, key, old, new: fresh, mine, result }
        })
    })
  }

  async position(): Promise<ScreenPosition | undefined> {
    // where somebody was is no loss: what cannot be read is passed over
    return readState(this.workspace.layout.screen(this.variant.name), position).catch(
      () => undefined,
    )
  }

  async remember(place: ScreenPosition): Promise<void> {
    const { layout, disk } = this.workspace
    const content = { schema: 1, ...place }
    await writeState(layout.screen(this.variant.name), content, disk).catch(() => undefined)
  }

  private inSession<T>(work: (session: SettleSession) => Promise<T>): Promise<T> {
    const { workspace, variant } = this
    return whileFinished(workspace, variant, async () =>
      work(await SettleSession.open(workspace, variant)),
    )
  }
}

function dataOf(session: SettleSession): ScreenData {
  const { draft, decisions, problems } = session
  const { variant, from, to, habits, groups, lookedAt } = draft.record
  return {
    variant,
    from,
    to,
    questions: openQuestions(draft),
    habits,
    groups: groups.map((group) => ({ ...group, isLookedAt: lookedAt.includes(group.rows) })),
    closed: closedKeys(draft, decisions),
    problems: problems.map(({ path, message }) => ({ path, message })),
  }
}

/** What vanilla changed in a file; what was decided there stands with its result. */
async function changesIn(session: SettleSession, path: string): Promise<Change[]> {
  const { workspace, decisions } = session
  const [old, fresh, mine] = await session.inputs(path)
  const { changes } = await mergedReport({
    path,
    bytes: [old, fresh, mine],
    rule: ruleFor(workspace.config, path),
    remembered: decisions.byPath.get(path) ?? [],
  })
  return changes.filter(({ side, wasConflict }) => side === 'vanilla' && wasConflict === undefined)
}

function lineIn(bytes: Buffer | undefined, line: number | undefined): SourceLine | undefined {
  const decoded = bytes === undefined ? undefined : decode(bytes, 'latin1')
  if (line === undefined || decoded === undefined || !('text' in decoded)) return undefined
  const text = decoded.text.split(/\r\n|\r|\n/)[line - 1]
  return text === undefined ? undefined : { line, text }
}
