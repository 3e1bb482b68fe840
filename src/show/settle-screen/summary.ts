import { gather } from '../../core/document/gather.ts'
import type { ScreenData } from '../../core/facts/screen.ts'
import type { ClosedKey } from '../../core/facts/settled.ts'
import { keyPattern } from '../../core/keys/key.ts'
import { showNext } from '../next.ts'
import { keysOf, stillOpen } from '../open-words.ts'
import type { Paint } from '../paint.ts'
import { count, oneLine, wrap } from '../text.ts'

/** More lines of decisions than this are counted. */
const MOST_LINES = 12

/** What was decided in a draft, alike decisions as one: what the screen leaves behind. */
export function settleSummary(
  { variant, from, to, questions, closed, groups, problems }: ScreenData,
  next: readonly string[],
  paint: Paint,
  width: number,
): string {
  const keys = keysOf(questions)
  const open = keys === 0 ? 'Nothing is open.' : stillOpen(questions.length, keys)
  const unseen = groups.filter(({ isLookedAt }) => !isLookedAt).length
  const alike = new Map<string, ClosedKey[]>()
  for (const each of closed)
    gather(alike, `${each.path}\0${keyPattern(each.key)}\0${each.take}`, each)
  const lines = [...alike.values()].map((same) => decidedLine(same))
  const rest = lines.length - MOST_LINES
  return `${[
    paint.strong(`${variant}  ${from} to ${to}   ${count(closed.length, 'key')} decided`),
    ...lines.slice(0, MOST_LINES).flatMap((line) => wrap(line, width, '  ')),
    ...(rest > 0 ? [`  and ${rest} more; settle --list --all shows them`] : []),
    ...wrap(open, width, '  '),
    ...problems.flatMap(({ path, message }) => wrap(`${path} ${message}`, width, '  ')),
    ...(unseen === 0
      ? []
      : wrap(
          `${count(unseen, 'group')} of changes of vanilla: nobody looked at them.`,
          width,
          '  ',
        )),
    ...showNext(next, width),
  ].join('\n')}\n`
}

function decidedLine(same: readonly ClosedKey[]): string {
  const [first] = same
  if (first === undefined) return ''
  const { path, key, take, result } = first
  const what = same.length === 1 ? key : keyPattern(key)
  const where = key === '' ? path : `${path}: ${oneLine(what, 60)}`
  const many = same.length === 1 ? '' : `  ${count(same.length, 'key')}`
  const value =
    take === 'vanilla' ? "vanilla's" : take === 'mine' ? 'yours' : oneLine(result ?? 'nothing', 30)
  return `${where}${many}: ${value}`
}
