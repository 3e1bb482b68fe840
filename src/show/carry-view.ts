import { gather } from '../core/document/gather.ts'
import { isDroppedEdit } from '../core/report/ledger.ts'
import type { Outcome } from '../core/report/file-fate.ts'
import type { CarryReport, FileReport, LocatedProblem } from '../core/report/report.ts'
import { isFaulty, totalCounts } from '../core/report/report.ts'
import { shownBroken } from './findings-view.ts'
import { showNext } from './next.ts'
import type { Paint } from './paint.ts'
import { showProblem } from './problem-view.ts'
import { showReadings } from './reading-view.ts'
import { questionsOf } from '../core/grouping/questions.ts'
import { shownQuestions } from './questions-view.ts'
import { stillOpen } from './open-words.ts'
import { count, grouped, oneLine, wrap } from './text.ts'

/** About so many notes and warnings are shown, of each kind so many at least; more are counted. */
const MOST_REMARKS = 6
const LEAST_REMARKS = 2

export interface CarryView {
  report: CarryReport
  paths: { old: string; new: string; mine: string; out: string }
  /** Commands to run next, the likeliest first. */
  next: readonly string[]
  /** Whether nothing was written. */
  dryRun: boolean
  /** Whether single files were carried: what is wrong in one is told by the path that the call gives it. */
  isSingle: boolean
  /** Whether every question is shown. */
  all?: boolean | undefined
}

/** A carry as text for people: what was done, what is open, where the result is, what to do next. */
export function showCarry(view: CarryView, paint: Paint, width: number): string {
  const report = view.isSingle ? withInputPaths(view.report, view.paths) : view.report
  const questions = questionsOf(report.files.map(({ path, conflicts }) => ({ path, conflicts })))
  const lines = [
    ...wrap(headline(view), width, '').map((line) => paint.strong(line)),
    '',
    ...missing(report, paint, width),
    ...summary(report, questions.length, width),
    ...shownQuestions(questions, view.all === true, paint, width),
    ...shownBroken(report.findings, paint, width),
    ...unread(report, paint, width),
    ...remarks(report, paint, width),
    ...showReadings(report.files, paint, width),
    '',
    ...closing(view, questions.length, width),
  ]
  return `${lines.join('\n')}\n`
}

/** The report with each problem at the input that it is about: the file to open is not the result. */
function withInputPaths(report: CarryReport, paths: CarryView['paths']): CarryReport {
  const named = (problem: LocatedProblem): LocatedProblem =>
    problem.input === null ? problem : { ...problem, path: paths[problem.input] }
  const files = report.files.map((file) => ({ ...file, problems: file.problems.map(named) }))
  return { ...report, files, problems: report.problems.map(named) }
}

/** Whether a file or a folder of the operator's may not be opened: then it is not in the result. */
function isMissing({ outcome, problems }: FileReport): boolean {
  const isClosed = ({ code, input }: LocatedProblem): boolean =>
    input === 'mine' && (code === 'file/unreadable' || code === 'folder/unreadable')
  return outcome === 'unread' && problems.some(isClosed)
}

/** What is not in the result, before all else. */
export function missing(report: CarryReport, paint: Paint, width: number): string[] {
  const files = report.files.filter(isMissing)
  if (files.length === 0) return []
  const [may, are] = files.length === 1 ? ['this', 'is'] : ['these', 'are']
  return [
    ...wrap(`NOT in the result ${are} ${may} of yours, which may not be opened:`, width, '  ').map(
      (line) => paint.open(line),
    ),
    ...files.flatMap(({ path }) => wrap(oneLine(path, 300), width, '    ')),
    '',
  ]
}

function headline({ paths, dryRun }: CarryView): string {
  const from = paths.old === 'none' ? 'without an old vanilla' : `from ${paths.old}`
  return dryRun
    ? `Forecast: carrying ${paths.mine} ${from} to ${paths.new}; nothing was written`
    : `Carried ${paths.mine} ${from} to ${paths.new}`
}

export function summary(report: CarryReport, questions: number, width: number): string[] {
  const total = totalCounts(report.files)
  const of = (...outcomes: Outcome[]): number =>
    report.files.filter((file) => outcomes.includes(file.outcome)).length
  const files = joined([
    [of('merged', 'conflict'), 'file merged', 'files merged'],
    [of('renamed'), 'renamed', 'renamed'],
    [of('vanilla', 'added'), 'taken from vanilla', 'taken from vanilla'],
    [of('mine'), 'kept as yours', 'kept as yours'],
    [of('same'), 'the same in all', 'the same in all'],
    [of('removed'), 'dropped', 'dropped'],
    [of('left-out'), 'left out', 'left out'],
    [of('unread'), 'could not be read', 'could not be read'],
  ])
  const keys = joined([
    [total.vanillaChanges, 'change taken from vanilla', 'changes taken from vanilla'],
    [total.edits, 'edit of yours kept', 'edits of yours kept'],
    [total.both, 'made by both', 'made by both alike'],
    [total.decided, 'decided', 'decided'],
  ])
  const open = questions === 0 ? nothingOpen(report) : stillOpen(questions, total.conflicts)
  const lost = lostEdits(report)
  const dropped =
    lost === 0 ? '' : `${count(lost, 'edit')} of yours not taken along, since the config says so.`
  return [files, keys, dropped, open]
    .filter((text) => text !== '')
    .flatMap((text) => wrap(text, width, '  '))
}

/** Of what could not be read nobody knows whether anything is open. */
function nothingOpen({ files }: CarryReport): string {
  const unread = files.filter(({ outcome }) => outcome === 'unread').length
  if (unread === 0) return 'Nothing is open.'
  return unread < files.length ? 'In the files that could be read nothing is open.' : ''
}

function lostEdits(report: CarryReport): number {
  return report.files.reduce((sum, file) => sum + file.changes.filter(isDroppedEdit).length, 0)
}

function joined(parts: readonly [number, string, string][]): string {
  const said = parts.filter(([number]) => number > 0)
  return said
    .map(([number, one, many]) => `${grouped(number)} ${number === 1 ? one : many}`)
    .join(' · ')
}

export function unread(report: CarryReport, paint: Paint, width: number): string[] {
  const all = report.files.filter((file) => file.outcome === 'unread')
  const faulty = all.filter(isFaulty)
  const files = all.filter((file) => !isFaulty(file))
  const [absent, present] = [files.filter(isMissing), files.filter((file) => !isMissing(file))]
  const said = absent.flatMap(({ problems }) =>
    problems.filter(({ severity }) => severity === 'error'),
  )
  return [
    ...faults(faulty, paint, width),
    ...said.flatMap((problem) => ['', ...showProblem(problem, paint, width)]),
    ...unreadInputs(report, present, paint, width),
  ]
}

function asYouHad(files: number, why: string): string {
  const [are, them] = files === 1 ? ['is', 'it'] : ['are', 'them']
  return `  ${count(files, 'file')} ${why}, and ${are} in the result as you had ${them}:`
}

/** What the program could not do, though the inputs are well-formed. */
function faults(files: readonly FileReport[], paint: Paint, width: number): string[] {
  if (files.length === 0) return []
  return [
    '',
    paint.open(asYouHad(files.length, 'could not be merged')),
    ...files
      .flatMap(({ problems }) => problems)
      .flatMap((problem) => ['', ...showProblem(problem, paint, width)]),
  ]
}

/** What to do: a file of vanilla is not the operator's to mend. */
function adviceFor(problems: readonly LocatedProblem[]): string {
  const isVanillas = problems.every(({ input }) => input === 'old' || input === 'new')
  return isVanillas && problems.length > 0
    ? "This is vanilla's own file, as the game ships it: a rule in anagnosis.yaml (take: mine or take: vanilla) says whose is taken as a whole; to merge it, mend a copy of the release and take that in."
    : `Mend ${new Set(problems.map(({ path }) => path)).size === 1 ? 'the file' : 'the files'} and run again.`
}

/** Files of the operator or of vanilla that are malformed. */
function unreadInputs(
  report: CarryReport,
  files: readonly FileReport[],
  paint: Paint,
  width: number,
): string[] {
  if (files.length === 0) return []
  const others = report.files.length - files.length
  const problems = files.flatMap((file) =>
    file.problems.filter((problem) => problem.severity === 'error'),
  )
  return [
    '',
    paint.open(asYouHad(files.length, 'could not be read')),
    ...problems.flatMap((problem) => ['', ...showProblem(problem, paint, width)]),
    '',
    ...wrap(
      `${adviceFor(problems)}${others > 0 ? ` The other ${count(others, 'file')} ${others === 1 ? 'is' : 'are'} done.` : ''}`,
      width,
      '',
    ),
  ]
}

export function remarks(report: CarryReport, paint: Paint, width: number): string[] {
  const all: LocatedProblem[] = [
    ...report.problems,
    ...report.files.filter((file) => file.outcome !== 'unread').flatMap((file) => file.problems),
  ]
  if (all.length === 0) return []
  const order = { error: 0, warning: 1, note: 2 }
  const byKind = new Map<string, LocatedProblem[]>()
  for (const problem of [...all].sort((a, b) => order[a.severity] - order[b.severity]))
    gather(byKind, problem.code, problem)
  // what there is much of does not hide the rest
  const most = Math.max(LEAST_REMARKS, Math.floor(MOST_REMARKS / byKind.size))
  const lines = ['', '  To know:']
  let isCut = false
  for (const alike of byKind.values()) {
    const shown = alike.length <= most + 1 ? alike : alike.slice(0, most)
    for (const [at, problem] of shown.entries()) {
      const said = remark(problem) + adviceOf(problem, shown[at + 1])
      lines.push(...wrap(said, width, '    ').map((line) => paint.quiet(line)))
    }
    const left = alike.length - shown.length
    if (left === 0) continue
    lines.push(`    and ${grouped(left)} more like these`)
    isCut = true
  }
  return isCut ? [...lines, '    --json lists them all'] : lines
}

function remark({ path, line, input, message }: LocatedProblem): string {
  const place = [path, line].filter((part) => part !== null && part !== '').join(':')
  const which = input === null || input === 'mine' ? '' : ` of ${input}`
  return `${oneLine(place, 200)}${which}  ${oneLine(message, 240)}`
}

/** What to do about a warning, once where it is the same for the next one. */
function adviceOf({ severity, hint }: LocatedProblem, next: LocatedProblem | undefined): string {
  const isSaid = severity === 'warning' && hint !== undefined && next?.hint !== hint
  return isSaid ? `; ${oneLine(hint, 160)}` : ''
}

function closing(view: CarryView, questions: number, width: number): string[] {
  const lines = view.dryRun ? [] : wrap(`The result is in ${view.paths.out}`, width, '')
  if (questions > 0 && !view.dryRun) {
    lines.push(
      ...wrap(
        'Where vanilla is right, change the line in the result; then put it live.',
        width,
        '',
      ),
    )
  }
  return [...lines, ...showNext(view.next, width)]
}
