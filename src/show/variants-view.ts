import type { CarriedVariant, RefusedVariant } from '../core/facts/carried.ts'
import { totalCounts } from '../core/report/report.ts'
import { missing, remarks, summary, unread } from './carry-view.ts'
import { shownBroken } from './findings-view.ts'
import { showNext } from './next.ts'
import type { Paint } from './paint.ts'
import { shownQuestions } from './questions-view.ts'
import { showReadings } from './reading-view.ts'
import { count, oneLine, wrap } from './text.ts'
import type { VariantsCarried } from './variants-json.ts'
import { variantQuestions } from './variants-json.ts'

/** A carry of variants as text for people: each of them, then the questions of all. */
export function showVariants(
  done: VariantsCarried,
  all: boolean,
  paint: Paint,
  width: number,
): string {
  const { carried, refused, dropped, next, dryRun } = done
  const questions = variantQuestions(carried)
  const several = carried.length > 1
  const lines = [
    ...dropped.map((name) => `Dropped the draft ${name}; what was decided stays.`),
    ...carried.flatMap((each) => shownVariant(each, dryRun, paint, width)),
    ...(several && questions.length > 0
      ? [
          '',
          ...wrap(
            `Over all: ${count(questions.length, 'question')} over ${count(conflictsOf(carried), 'key')}.`,
            width,
            '  ',
          ),
        ]
      : []),
    ...shownQuestions(questions, all, paint, width),
    ...carried.flatMap(({ report }) => [
      ...shownBroken(report.findings, paint, width),
      ...unread(report, paint, width),
      ...remarks(report, paint, width),
      ...(several ? [] : showReadings(report.files, paint, width)),
    ]),
    ...refused.flatMap((each) => shownRefused(each, paint, width)),
    ...showNext(next, width),
  ]
  return `${lines.join('\n')}\n`
}

function conflictsOf(carried: readonly CarriedVariant[]): number {
  return carried.reduce((sum, { report }) => sum + totalCounts(report.files).conflicts, 0)
}

function shownVariant(
  carried: CarriedVariant,
  dryRun: boolean,
  paint: Paint,
  width: number,
): string[] {
  const { variant, from, to, draft, report, handEdited } = carried
  const way = from === 'none' ? `to ${to}, without an old vanilla` : `from ${from} to ${to}`
  const head = dryRun
    ? `Forecast: carrying ${variant} ${way}; nothing was written`
    : `Carried ${variant} ${way}`
  const alone = variantQuestions([carried])
  return [
    ...wrap(head, width, '').map((line) => paint.strong(line)),
    ...(draft === null ? [] : wrap(`draft ${draft.name}, in ${draft.location}`, width, '  ')),
    '',
    ...missing(report, paint, width),
    ...summary(report, alone.length, width),
    ...(dryRun ? wrap(forecastWords(carried), width, '  ') : []),
    ...(handEdited.length === 0
      ? []
      : wrap(
          `Edits by hand of the draft before are in this one: ${handEdited.map((path) => oneLine(path)).join(', ')}.`,
          width,
          '  ',
        )),
  ]
}

const LOST: Record<string, string> = {
  policy: 'lie in files that a take: vanilla policy replaces',
  gone: 'are in entries that vanilla dropped, and are asked',
  unread: 'of your files cannot be read',
}

/** `Of your 214 edits 190 carry, 12 need you, 3 lie in files that …`. */
function forecastWords({ forecast: { carry, ask, lost } }: CarriedVariant): string {
  const edits = lost
    .filter(({ why }) => why !== 'unread')
    .reduce((sum, { count: number }) => sum + number, carry + ask)
  if (edits === 0 && lost.length === 0) return 'You have no edits.'
  const parts = [
    `${carry} ${carry === 1 ? 'carries' : 'carry'}`,
    `${ask} ${ask === 1 ? 'needs' : 'need'} you`,
    ...lost.map(({ why, count: number }) => `${number} ${LOST[why] ?? why}`),
  ]
  return `Of your ${count(edits, 'edit')} ${parts.join(', ')}.`
}

function shownRefused(
  { variant, message, hint }: RefusedVariant,
  paint: Paint,
  width: number,
): string[] {
  return [
    '',
    ...wrap(`${variant} was not carried: ${message}`, width, '').map((line) => paint.open(line)),
    ...(hint === null ? [] : wrap(hint, width, '  ')),
  ]
}
