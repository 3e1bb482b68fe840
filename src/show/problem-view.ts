import type { LocatedProblem } from '../core/report/report.ts'
import type { Paint } from './paint.ts'
import { clip, visible, wrap } from './text.ts'

/** A problem as people read it: where, what, the line with a mark under the place, what to do. */
export function showProblem(problem: LocatedProblem, paint: Paint, width: number): string[] {
  const { path, line, column, input } = problem
  const parts = [path, line, column].filter((part) => part !== null && part !== '')
  const place = visible(parts.join(':'))
  const which = input === null ? '' : ` (in ${input})`
  const lines = wrap(`${place}${which}  ${visible(problem.message)}`, width, '').map((text, i) =>
    i === 0 ? text.replace(place, paint.strong(place)) : `  ${text}`,
  )
  if (line === null || column === null || problem.text === undefined) {
    if (problem.hint !== undefined) lines.push(...wrap(problem.hint, width, '  '))
    return lines
  }
  const { related, hint = '' } = problem
  const shown = [
    { at: { line, column, text: problem.text }, marked: problem.width ?? 1, word: hint },
  ]
  if (related !== undefined && related.line !== line) {
    shown.push({ at: related, marked: 1, word: related.message })
  }
  shown.sort((a, b) => a.at.line - b.at.line)
  lines.push(...shown.flatMap(({ at, marked, word }) => sourceLine(at, marked, word, paint, width)))
  return lines
}

/** `  12 | the line`, and under it a caret with a word; the line is moved so that the place is seen. */
function sourceLine(
  at: { line: number; column: number; text: string },
  marked: number,
  word: string,
  paint: Paint,
  width: number,
): string[] {
  const gutter = `${String(at.line).padStart(5)} | `
  const room = width - gutter.length
  const from = at.column > room - 20 ? Math.max(0, at.column - Math.floor(room / 2)) : 0
  const text = at.text.replace(/\t/g, ' ').replace(/[\u0000-\u001f\u007f]/g, '·')
  const shown = (from > 0 ? '…' : '') + text.slice(from > 0 ? from + 1 : 0)
  const offset = at.column - 1 - from
  const carets = '^'.repeat(Math.max(1, Math.min(marked, room - offset)))
  const blank = ' '.repeat(gutter.length)
  const lines = [
    paint.quiet(gutter) + clip(shown, room),
    blank + ' '.repeat(offset) + paint.open(carets),
  ]
  const beside = offset + carets.length + 1 + word.length <= room
  if (word !== '' && beside) lines[1] = `${lines[1] ?? ''} ${word}`
  else if (word !== '') lines.push(...wrap(word, width, blank))
  return lines
}
