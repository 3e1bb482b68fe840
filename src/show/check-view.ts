import type { CheckedFolder } from '../core/facts/checked.ts'
import { shownFindings } from './findings-view.ts'
import { showNext } from './next.ts'
import type { Paint } from './paint.ts'
import { showProblem } from './problem-view.ts'
import { count, wrap } from './text.ts'

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
