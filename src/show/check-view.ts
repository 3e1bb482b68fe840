import type { Finding } from '../core/checks/finding.ts'
import { gather } from '../core/document/gather.ts'
import type { CheckedFolder } from '../core/facts/checked.ts'
import { showNext } from './next.ts'
import type { Paint } from './paint.ts'
import { showProblem } from './problem-view.ts'
import { count, oneLine, wrap } from './text.ts'

/** More findings of one kind than this are counted. */
const MOST_OF_KIND = 20

/** What the checks of a folder found, as text for people: by kind, each in its file and line. */
export function showChecked(
  checked: CheckedFolder,
  name: string,
  next: readonly string[],
  paint: Paint,
  width: number,
): string {
  const { files, checks, findings, problems } = checked
  const made = checks === 0 ? 'no checks in the config' : `${count(checks, 'check')} of the config`
  const head = `Checked ${name}: ${count(files, 'file')}, ${made}`
  const lines = wrap(head, width, '').map((line) => paint.strong(line))
  lines.push(...shownFindings(findings, paint, width))
  const said = problems.flatMap((problem) => showProblem(problem, paint, width - 2))
  if (said.length > 0) lines.push('', 'To know:', ...said.map((line) => `  ${line}`))
  if (findings.length === 0) lines.push('  Every file is well formed, and nothing was found.')
  return `${[...lines, ...showNext(next, width)].join('\n')}\n`
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
      : { hint: check === 'well-formed' ? expected : `expected: ${expected}${near}` }
  const problem = { ...found, ...hint, message: at + message, code: check, input: null }
  return showProblem(problem, paint, width - 4).map((line) => `    ${line}`)
}
