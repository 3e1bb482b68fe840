import type { ClosedKey, SettleState } from '../../core/facts/settled.ts'
import type { PlacedConflict, Question } from '../../core/grouping/questions.ts'
import { parsedTake } from '../../core/grouping/choices.ts'
import { nearest } from '../../core/keys/nearest.ts'
import { storedValues } from '../../core/report/remembered.ts'
import type { DecisionTake, StoredValues } from '../../core/report/remembered.ts'
import { MINE, NEW, OLD } from '../../core/document/sides.ts'
import { pathPattern } from '../config/path-pattern.ts'
import { wholeValues } from '../carry/whole-decision.ts'
import type { Decided } from '../draft/decisions.ts'
import { Decisions } from '../draft/decisions.ts'
import type { DraftFile } from '../draft/draft.ts'
import { writeRecord } from '../draft/draft.ts'
import { nearestKeyIn, valuesAtKey } from '../draft/key-values.ts'
import { EXIT, Failure } from '../failure.ts'
import { asTreePath } from '../paths.ts'
import { isFile } from '../workspace.ts'
import { isLookedAt } from './looked-at.ts'
import type { SettleSession } from './session.ts'
import { closedKeys, openQuestions } from './state.ts'

/** What a call of `settle` by options asks for. */
export interface SettleRequest {
  file?: string | undefined
  key?: string | undefined
  id?: string | undefined
  take?: string | undefined
  /** Whether the answer is for the whole question. */
  alike: boolean
  lookedAt?: string | undefined
  /** A file of decisions, or a variant that has one. */
  from?: string | undefined
}

/** One key, and what is taken for it: as `--take` has it. */
export interface KeyAnswer {
  path: string
  key: string
  take: string
}

interface Done {
  closed: ClosedKey[]
  notApplied: SettleState['notApplied']
}

/** Decides keys of an open draft. */
export class Answering {
  constructor(private readonly session: SettleSession) {}

  async done(request: SettleRequest): Promise<Done> {
    if (request.from !== undefined) return this.takeOver(request.from)
    if (request.take === undefined) return { closed: [], notApplied: [] }
    const said = parsedTake(request.take)
    if (said === undefined) throw wrongTake(request.take)
    const decided = await this.decided(request, said)
    return { closed: await this.decide(decided), notApplied: [] }
  }

  /** Answers several keys at once, each in its own way: all of them, or none. */
  async each(answers: readonly KeyAnswer[]): Promise<ClosedKey[]> {
    const decided: Decided[] = []
    for (const { path, key, take } of answers) {
      const said = parsedTake(take)
      if (said === undefined) throw wrongTake(take)
      decided.push(...(await this.decided({ file: path, key, alike: false }, said)))
    }
    return this.decide(decided)
  }

  /** Takes answers back: their keys are as they were decided before. */
  async takeBack(
    keys: readonly { path: string; key: string }[],
    before: readonly Decided[],
  ): Promise<void> {
    const { session } = this
    const gone = new Set(keys.map(({ path, key }) => `${path}\0${key}`))
    const decisions = session.decisions
      .without(({ path, key }) => gone.has(`${path}\0${key}`))
      .with(before)
    await session.apply(decisions, new Set(keys.map(({ path }) => path)))
  }

  private async decide(decided: readonly Decided[]): Promise<ClosedKey[]> {
    const { decisions, paths, made, notApplied } = await this.session.attempt(decided)
    const [failed] = notApplied
    if (failed !== undefined) throw notApplicable(failed.decision, failed.why)
    await this.session.apply(decisions, paths, made)
    return this.closedOf(decided)
  }

  /** Marks groups of changes as looked at. Gives how many. */
  async look(pattern: string): Promise<number> {
    const { draft, workspace } = this.session
    const { record } = draft
    const meant = record.groups.filter((group) => isLookedAt(group, pattern))
    if (meant.length === 0 && pattern !== 'all') throw noSuchGroup(pattern, record.groups)
    const fresh = meant.filter(({ rows }) => !record.lookedAt.includes(rows))
    record.lookedAt.push(...fresh.map(({ rows }) => rows))
    await writeRecord(workspace.layout, draft, workspace.disk)
    return fresh.length
  }

  private closedOf(decided: readonly Decided[]): ClosedKey[] {
    const keys = new Set(decided.map(({ path, key }) => `${path}\0${key}`))
    return closedKeys(this.session.draft, this.session.decisions).filter(({ path, key }) =>
      keys.has(`${path}\0${key}`),
    )
  }

  /** The decisions that a call comes to. */
  private async decided(
    request: SettleRequest,
    said: { take: DecisionTake; value?: string },
  ): Promise<Decided[]> {
    const { from, to } = this.session.draft.record
    const how = { ...said, from, to, by: 'settle' as const }
    const targets = await this.targets(request, said.take)
    return targets.map(({ path, key, id, ...values }) => ({
      path,
      key,
      ...(id === undefined ? {} : { id }),
      ...storedValues(values),
      ...how,
    }))
  }

  private async targets(request: SettleRequest, take: DecisionTake): Promise<Target[]> {
    const questions = openQuestions(this.session.draft)
    const first = await this.firstTargets(request, questions)
    const isSide = take === 'vanilla' || take === 'mine'
    const meant = new Map<string, Target>()
    for (const target of first) {
      const question = questions.find(({ conflicts }) =>
        conflicts.some(({ path, key }) => path === target.path && key === target.key),
      )
      const alike = request.alike
        ? (question?.conflicts ?? [])
        : isSide
          ? tiedWith(question, target)
          : []
      for (const each of [target, ...(await this.asTargets(alike))])
        meant.set(`${each.path}\0${each.key}`, each)
    }
    return [...meant.values()]
  }

  private async firstTargets(
    { file, key, id }: SettleRequest,
    questions: readonly Question[],
  ): Promise<Target[]> {
    const all = questions.flatMap(({ conflicts }) => conflicts)
    if (id !== undefined) {
      const open = all.filter((each) => each.id === id)
      if (open.length > 0) return this.asTargets(open)
      const closed = this.closedTargets().find((each) => each.id === id)
      if (closed !== undefined) return [closed]
      throw new Failure('settle/no-such-id', `no question of this draft has the id ${id}`, {
        exit: EXIT.wrongCall,
        hint: 'settle --list --json names all',
      })
    }
    if (file === undefined) throw incomplete()
    if (file.includes('*')) return this.inFiles(file, key, all)
    const found = this.file(file)
    const open = all.filter(({ path }) => path === found.path)
    if (key === undefined) {
      if (open.length > 0) return this.asTargets(open)
      throw new Failure('settle/nothing-open', `nothing is open in ${found.path}`, {
        exit: EXIT.wrongCall,
        hint: '--key KEY gives a value to a key that is not in question',
      })
    }
    return this.keyTargets(found, key, open)
  }

  /** A key of a file, whether it is in question, was decided, or was neither. */
  private async keyTargets(
    file: DraftFile,
    key: string,
    open: readonly PlacedConflict[],
  ): Promise<Target[]> {
    const asked = open.filter((each) => each.path === file.path && each.key === key)
    if (asked.length > 0) return this.asTargets(asked)
    const closed = this.closedTargets().find((each) => each.path === file.path && each.key === key)
    return [closed ?? (await this.anyKey(file, key))]
  }

  /** All that is open in the files that match a pattern; of a key that key in all of them that have it. */
  private async inFiles(
    pattern: string,
    key: string | undefined,
    all: readonly PlacedConflict[],
  ): Promise<Target[]> {
    const isMeant = pathPattern(pattern)
    if (key !== undefined) {
      const meant = this.session.draft.record.files.filter(({ path }) => isMeant(path))
      const found = await Promise.allSettled(meant.map((file) => this.keyTargets(file, key, all)))
      const targets = found.flatMap((each) => (each.status === 'fulfilled' ? each.value : []))
      const failed = found.flatMap((each): unknown[] =>
        each.status === 'rejected' ? [each.reason] : [],
      )
      const isOther = (error: unknown): boolean =>
        !(error instanceof Failure && error.code === 'settle/no-such-key')
      const reason = failed.find(isOther) ?? (targets.length === 0 ? failed[0] : undefined)
      if (reason !== undefined) throw reason
      if (targets.length > 0) return targets
    }
    const open = all.filter(({ path }) => isMeant(path))
    if (open.length === 0)
      throw new Failure('settle/nothing-open', `nothing is open in ${pattern}`, {
        exit: EXIT.wrongCall,
        hint: 'settle --list names what is open',
      })
    return this.asTargets(open)
  }

  /** The file of a draft that is named, whatever its capitals and separators are. */
  private file(named: string): DraftFile {
    const { files } = this.session.draft.record
    const path = asTreePath(named)
    const exact = files.find((each) => each.path === path)
    if (exact !== undefined) return exact
    const alike = files.filter((each) => each.path.toLowerCase() === path.toLowerCase())
    const [only] = alike
    if (only !== undefined && alike.length === 1) return only
    const near = nearest(
      path,
      files.map((each) => each.path),
    )
    throw new Failure('settle/no-such-file', `the draft has no file ${path}`, {
      exit: EXIT.wrongCall,
      hint: near === undefined ? 'paths are those of the report' : `did you mean ${near}?`,
    })
  }

  /** Conflicts as targets; what is asked of an unread file is told by the contents of the file. */
  private async asTargets(conflicts: readonly PlacedConflict[]): Promise<Target[]> {
    const targets: Target[] = []
    for (const { path, key, id, old, new: fresh, mine, unread } of conflicts) {
      if (unread === true) targets.push({ path, key, ...(await this.contents(path)) })
      else targets.push({ path, key, id, old, new: fresh, mine })
    }
    return targets
  }

  private closedTargets(): Target[] {
    return this.session.draft.record.files.flatMap(({ path, closed }) =>
      closed.map(({ key, id, old, new: fresh, mine }) => ({
        path,
        key,
        ...(id === undefined ? {} : { id }),
        old,
        new: fresh,
        mine,
      })),
    )
  }

  /** The hashes of what the three inputs have of a file. */
  private async contents(path: string): Promise<StoredValues> {
    const [old, fresh, mine] = await this.session.inputs(path)
    return wholeValues([old, fresh, mine])
  }

  /** A key that is not in question. @throws Failure that names the nearest, where the file has no such key */
  private async anyKey({ path }: DraftFile, key: string): Promise<Target> {
    const { workspace } = this.session
    const bytes = await this.session.inputs(path)
    const values = await valuesAtKey(workspace, path, bytes, key)
    if (values !== undefined) return { path, key, ...values }
    const near = await nearestKeyIn(workspace, path, [bytes[OLD], bytes[NEW], bytes[MINE]], key)
    throw new Failure('settle/no-such-key', `${path} has no key ${key}`, {
      exit: EXIT.wrongCall,
      hint: near === undefined ? 'settle --list names what is open' : `did you mean ${near}?`,
    })
  }

  /** Takes over what was decided elsewhere, as far as it is for the same values. */
  private async takeOver(named: string): Promise<Done> {
    const { session } = this
    const others = await this.othersDecisions(named)
    const own = new Set(session.decisions.all.map(({ path, key }) => `${path}\0${key}`))
    const files = new Set(session.draft.record.files.map(({ path }) => path))
    const fresh = others.all
      .filter(({ path, key }) => !own.has(`${path}\0${key}`))
      .map((each): Decided => ({ ...each, by: 'from' }))
    const [here, elsewhere] = [
      fresh.filter(({ path }) => files.has(path)),
      fresh.filter(({ path }) => !files.has(path)),
    ]
    const { notApplied: failed } = await session.attempt(here)
    const isFailed = new Set(failed.map(({ decision }) => decision))
    const taken = here.filter((each) => !isFailed.has(each))
    if (taken.length > 0)
      await session.apply(session.decisions.with(taken), new Set(taken.map(({ path }) => path)))
    const notApplied = [
      ...failed.map(({ decision: { path, key }, why }) => ({ path, key, why })),
      ...elsewhere.map(({ path, key }) => ({ path, key, why: 'the draft has no such file' })),
    ]
    return { closed: this.closedOf(taken), notApplied }
  }

  private async othersDecisions(named: string): Promise<Decisions> {
    const { workspace } = this.session
    const known = workspace.variants.map(({ name }) => name)
    if (known.includes(named)) return Decisions.read(workspace.decisionsOf(named))
    if (await isFile(named)) return Decisions.read(named)
    const near = nearest(named, known)
    throw new Failure('settle/no-decisions', `${named} is neither a variant nor a file`, {
      exit: EXIT.wrongCall,
      hint:
        near === undefined
          ? 'name a file of decisions, or a variant that has one'
          : `did you mean ${near}?`,
    })
  }
}

/** A key that is decided, and what stands there. */
interface Target extends StoredValues {
  path: string
  key: string
  id?: string
}

/** What is decided as one with a key of a question. */
function tiedWith(question: Question | undefined, target: Target): PlacedConflict[] {
  const asked = question?.conflicts.find(
    ({ path, key }) => path === target.path && key === target.key,
  )
  const tied = new Set(asked?.together ?? [])
  return (question?.conflicts ?? []).filter(
    ({ path, key, id }) => path === target.path && (tied.has(id) || tied.has(key)),
  )
}

function incomplete(): Failure {
  return new Failure('call/wrong', 'the call does not say what is decided', {
    exit: EXIT.wrongCall,
    hint: 'name --file PATH, with --key KEY for one key of it, or --id ID; settle --list names them',
  })
}

function wrongTake(text: string): Failure {
  return new Failure('call/wrong', `--take ${text} is not known`, {
    exit: EXIT.wrongCall,
    hint: 'it is vanilla, mine, both, value:TEXT, source:TEXT or onto:KEY',
  })
}

function notApplicable({ path, key, take }: Decided, why: string): Failure {
  const where = key === '' ? path : `${path}: ${key}`
  return new Failure('settle/not-applicable', `${where} cannot be decided as ${take}: ${why}`, {
    exit: EXIT.wrongCall,
    hint: 'nothing was changed; settle --list shows the choices',
  })
}

function noSuchGroup(pattern: string, groups: readonly { pattern: string }[]): Failure {
  const near = nearest(
    pattern,
    groups.map((each) => each.pattern),
  )
  return new Failure('settle/no-such-group', `no group of changes is called ${pattern}`, {
    exit: EXIT.wrongCall,
    hint: near === undefined ? 'whatsnew names the groups; all marks all' : `did you mean ${near}?`,
  })
}
