import { detached } from '../document/characters.ts'
import { LineMap } from '../document/line-map.ts'
import type { Triple } from '../document/sides.ts'
import { MINE, SIDE_NAMES, triple } from '../document/sides.ts'
import type { InputProblem } from '../plan/telling.ts'
import type { LocatedProblem } from './report.ts'

/** Lines longer than this are shown as a window around the place. */
const MOST_SHOWN = 400

/** Problems with lines and columns for people, and the lines themselves. */
export function locate(
  problems: readonly InputProblem[],
  sources: Triple<string | undefined>,
  path: string,
): LocatedProblem[] {
  const maps = triple((side) => new LineMap(sources[side] ?? ''))
  return problems.map((problem) => {
    const { severity, code, message, input, hint, related, span } = problem
    const lines = maps[SIDE_NAMES.indexOf(input)] ?? maps[MINE]
    const { line, column } = lines.at(span.start)
    const text = lines.textAt(span.start)
    const width = Math.max(1, Math.min(span.end - span.start, text.length - column + 1))
    const located: LocatedProblem = {
      severity,
      code,
      message: detached(message),
      path,
      line,
      column,
      input,
      width,
    }
    if (text.length <= MOST_SHOWN) located.text = detached(text)
    if (hint !== undefined) located.hint = detached(hint)
    if (related !== undefined) {
      const at = lines.at(related.span.start)
      const shown = lines.textAt(related.span.start)
      located.related = {
        ...at,
        text: shown.length <= MOST_SHOWN ? detached(shown) : '',
        message: detached(related.message),
      }
    }
    return located
  })
}
