import { gather } from '../core/document/gather.ts'
import type { Finding } from '../core/report/finding.ts'
import { WELL_FORMED } from '../core/report/finding.ts'
import type { Paint } from './paint.ts'
import { showProblem } from './problem-view.ts'
import { count, oneLine, wrap } from './text.ts'

/** More findings of one kind than this are counted. */
const MOST_OF_KIND = 20

/** What two sides broke together, as text for people; nothing where they did not. */
export function shownBroken(
  findings: readonly Finding[] | undefined,
  paint: Paint,
  width: number,
): string[] {
  if (findings === undefined || findings.length === 0) return []
  const said =
    'Each change below is right by itself; what both sides changed no longer fits together:'
  return ['', ...wrap(said, width, '  '), ...shownFindings(findings, paint, width)]
}

/** Findings by their kind, as text for people. */
export function shownFindings(findings: readonly Finding[], paint: Paint, width: number): string[] {
  const kinds = new Map<string, Finding[]>()
  for (const each of findings) gather(kinds, each.check, each)
  return [...kinds].flatMap(([kind, all]) => {
    const rest = all.length - MOST_OF_KIND
    return [
      '',
      `  ${paint.open(kind)}  ${count(all.length, 'finding')}`,
      ...all.slice(0, MOST_OF_KIND).flatMap((each) => shown(each, paint, width)),
      ...(rest > 0 ? [`    and ${count(rest, 'finding')} more; --json has all of them`] : []),
    ]
  })
}

function shown(found: Finding, paint: Paint, width: number): string[] {
  const { key, message, expected, nearest, check } = found
  const at = key === '' ? '' : `${oneLine(key, 60)}: `
  const near = nearest === null || nearest === expected ? '' : `; nearest is ${oneLine(nearest)}`
  // of a malformed file the hint says what was expected
  const hint =
    expected === null
      ? {}
      : { hint: check === WELL_FORMED ? expected : `expected: ${expected}${near}` }
  const problem = { ...found, ...hint, message: at + message, code: check, input: null }
  return showProblem(problem, paint, width - 4).map((line) => `    ${line}`)
}
