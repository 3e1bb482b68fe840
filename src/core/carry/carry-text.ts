import { isBlank } from '../document/characters.ts'
import type { Problem } from '../document/problem.ts'
import type { Thresholds } from '../document/thresholds.ts'
import { THRESHOLDS } from '../document/thresholds.ts'
import { Doc } from '../formats/doc.ts'
import type { DialectReader, MissingDeclaration, ParseResult } from '../formats/format.ts'
import type { Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDE_NAMES, SIDES, triple } from '../document/sides.ts'
import type { Change, Conflict, Ledger } from '../report/ledger.ts'
import type { InputProblem } from '../plan/telling.ts'
import { lineEndsOf, pickForm, toLineEnds } from '../document/line-ends.ts'
import { locate } from '../report/locate.ts'
import type { CarryOptions, PlannedTexts } from './plan-texts.ts'
import { planTexts } from './plan-texts.ts'
import { writePlan } from '../write/write-plan.ts'
import { pick } from '../document/pick.ts'
import { everyKey } from '../plan/every-key.ts'
import type { Explained } from '../report/explained.ts'
import { explainKey } from '../report/explained.ts'
import { withoutFound } from './lost-comments.ts'
import { prove } from './prove.ts'
import type { LocatedProblem } from '../report/report.ts'
import { fileProblem, RESULT_DOES_NOT_READ } from '../report/report.ts'

export type { CarryOptions } from './plan-texts.ts'

export interface CarriedText {
  /** The result; undefined where an input is malformed. */
  text: string | undefined
  changes: Change[]
  conflicts: Conflict[]
  problems: LocatedProblem[]
  /** Place to the identity that was used there. */
  identities: ReadonlyMap<string, string>
  /** The dialect that vanilla's files show, in a few words; empty where it is the plain one. */
  dialect: string
  /** Decisions that could not be applied, and why. */
  notApplied?: { key: string; why: string }[]
  /** What there is at the key that is to be explained. */
  explained?: Explained
}

/**
 * The three-way merge of one file that is merged by key: what old, new and mine hold as text, in, and
 * the result with a row for each key in which new or mine differs from old, out. `old` is undefined
 * for a file that both brought.
 */
export function carryText(texts: Triple<string | undefined>, options: CarryOptions): CarriedText {
  const ends = triple((side) => lineEndsOf(texts[side]))
  const uniform = SIDES.every((side) => ends[side] !== 'mixed')
  const target = pick(triple((side) => (ends[side] === 'none' ? undefined : ends[side]))) ?? 'lf'
  const sources = uniform ? triple((side) => toLineEnds(texts[side], 'lf')) : texts
  const reader = options.format.reader(vanillaOf(sources), options.dialect)
  const { thresholds = THRESHOLDS } = options
  const read: ParseResult[] = []
  const readText = (source: string): ParseResult => readOnce(source, reader, read, thresholds)
  const readings = triple((side) => {
    const source = sources[side]
    return source === undefined ? undefined : readText(source)
  })
  const problems = problemsOf(readings)
  if (problems.some((problem) => problem.severity === 'error')) {
    return nothing(locate(problems, sources, options.path))
  }
  const lineEnd = uniform ? '\n' : LINE_END[target === 'mixed' ? 'lf' : target]
  problems.push(...laxnessOf(readings))
  const planned = planTexts({ readings, reader, lineEnd, problems, thresholds }, options)
  const { ledger, identities } = planned
  const located = (all: readonly InputProblem[]): LocatedProblem[] =>
    locate(all, sources, options.path)
  const told = {
    conflicts: ledger.conflicts,
    ...(planned.notApplied.length === 0 ? {} : { notApplied: planned.notApplied }),
    problems: located(ledger.problems),
    identities: identities.choices(),
    dialect: [reader.dialect, ...traitsOf(vanillaOf(readings))]
      .filter((said) => said !== '')
      .join(', '),
  }
  const explained = explainedOf(planned, options.explain)
  if (options.everyDifference === true)
    return { text: texts[MINE], changes: [], ...told, ...explained }
  if (options.onlyReport === true)
    return { text: texts[MINE] ?? texts[NEW], changes: ledger.changes, ...told, ...explained }
  const merged = writePlan(planned.plan, planned.docs, { lineEnd, present: planned.present })
  const tails = triple((side) => tailOf(sources[side]))
  const ended = withTail(merged, tails[pickForm(tails) ?? MINE] ?? '')
  const proof = sources.includes(ended)
    ? undefined
    : prove(ended, readings, options.format, readText)
  if (proof?.fault !== undefined) return faulty(proof.fault, options.path)
  const proven = proof?.text ?? ended
  const resultOf = (): Doc => new Doc(options.format, readText(proven).tree, reader)
  const left = withoutFound(ledger.problems, planned.docs, resultOf)
  if (left !== ledger.problems) told.problems = located(left)
  for (const kept of proof?.kept ?? []) tellKept(kept, ledger, told.problems)
  const text = uniform ? (toLineEnds(proven, target) ?? '') : proven
  return { text, changes: ledger.changes, ...told, ...explained }
}

/** What there is at the key that is to be explained, if one is. */
function explainedOf(
  { docs, present, identities }: PlannedTexts,
  key: string | undefined,
): Pick<CarriedText, 'explained'> {
  if (key === undefined) return {}
  return { explained: explainKey(everyKey(docs, present, identities), docs, key) }
}

/** What was put together cannot be read: that is a fault of the program, and nothing of it is written. */
function faulty({ message }: Problem, path: string): CarriedText {
  const problem = fileProblem(path, {
    severity: 'error',
    code: RESULT_DOES_NOT_READ,
    message: `a fault of anagnosis: what was put together from the three files cannot be read (${message})`,
    hint: 'merge this file by hand, and please report it with the three files',
  })
  return nothing([problem])
}

/** Tells of a declaration that stays: in a note, and in the row of the side that dropped it. */
function tellKept(
  { key, what }: MissingDeclaration,
  { path, changes }: Ledger,
  problems: LocatedProblem[],
): void {
  problems.push(
    fileProblem(path, {
      severity: 'note',
      code: 'carry/declaration-kept',
      message: `${what} is no longer declared on one side, but entries of the result use it; its declaration stays`,
    }),
  )
  for (const change of changes)
    if (change.key === key && change.result === null) change.result = change.mine ?? change.new
}

/** What there is of a file that was not merged. */
function nothing(problems: LocatedProblem[]): CarriedText {
  return {
    text: undefined,
    changes: [],
    conflicts: [],
    problems,
    identities: new Map<string, string>(),
    dialect: '',
  }
}

/** What is equal in two texts is read once, and is one document; the first helps to read the others. */
function readOnce(
  source: string,
  reader: DialectReader,
  known: ParseResult[],
  thresholds: Thresholds,
): ParseResult {
  const same = known.find(({ tree }) => tree.source === source)
  if (same !== undefined) return same
  const [first] = known
  const helps = first !== undefined && source.length >= thresholds.readAfter
  const result = reader.read(source, helps ? { result: first, thresholds } : undefined)
  known.push(result)
  return result
}

/** What shows the dialect: what vanilla has, or mine where there is nothing else. */
function vanillaOf<T>([old, fresh, mine]: Triple<T | undefined>): T[] {
  const isThere = (each: T | undefined): each is T => each !== undefined
  const vanilla = [old, fresh].filter(isThere)
  return vanilla.length > 0 ? vanilla : [mine].filter(isThere)
}

/** The laxnesses that readings have met, each once. */
function traitsOf(readings: readonly ParseResult[]): Set<string> {
  return new Set(readings.flatMap(({ lax }) => lax.map(({ trait }) => trait)))
}

const LINE_END = { lf: '\n', crlf: '\r\n', cr: '\r', none: '\n' } as const

/** The blanks and line ends that a text ends in. */
function tailOf(text: string | undefined): string | undefined {
  if (text === undefined) return undefined
  let at = text.length
  while (at > 0 && isBlank(text.charCodeAt(at - 1))) at--
  return text.slice(at)
}

/** What a file ends in is form: it is chosen three-way, whatever its last entry is. */
function withTail(text: string, tail: string): string {
  return text.slice(0, text.length - (tailOf(text) ?? '').length) + tail
}

/** What is wrong with each input. */
function problemsOf(readings: Triple<ParseResult | undefined>): InputProblem[] {
  return SIDES.flatMap((side) =>
    (readings[side]?.problems ?? []).map((problem) => ({ ...problem, input: SIDE_NAMES[side] })),
  )
}

/** What mine uses of a laxer dialect than vanilla's files. */
function laxnessOf(readings: Triple<ParseResult | undefined>): InputProblem[] {
  const vanilla = traitsOf(
    [readings[OLD], readings[NEW]].filter((reading) => reading !== undefined),
  )
  return (readings[MINE]?.lax ?? [])
    .filter(({ trait }) => !vanilla.has(trait))
    .map(({ warning }) => ({ ...warning, input: 'mine' }))
}
