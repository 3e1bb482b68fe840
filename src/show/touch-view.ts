import type { Change } from '../core/report/ledger.ts'
import { keyPattern } from '../core/keys/key.ts'
import type { VariantTouch } from '../core/facts/whats-new.ts'
import { shown, subject } from './group-words.ts'
import type { Paint } from './paint.ts'
import { questionsOf } from '../core/grouping/questions.ts'
import { shortList } from '../core/document/short-list.ts'
import { count, oneLine, wrap } from './text.ts'

const MOST_ROWS = 8

/** What an update does to a variant's edits: what clashes first, what merges last. */
export function showTouch(touch: VariantTouch, paint: Paint, width: number): string[] {
  const { conflicts, near, wiped, counts, unread } = touch
  const lines = [
    '',
    `  ${paint.mine(`What it does to your edits in ${touch.variant}, made from ${touch.vanilla}`)}`,
  ]
  const say = (text: string): void => {
    lines.push(...wrap(text, width, '    '))
  }
  if (conflicts.length > 0) {
    const questions = questionsOf(
      touch.files.map(({ path, conflicts: each }) => ({ path, conflicts: each })),
    )
    say(`Will conflict: ${count(conflicts.length, 'key')}, ${count(questions.length, 'question')}`)
    for (const { paths: files, pattern, example, conflicts: alike } of questions.slice(
      0,
      MOST_ROWS,
    )) {
      const path = shortList(files)
      const values =
        example.kind === 'two-values'
          ? `${shown(example.old)} is now ${shown(example.new)}, you have ${shown(example.mine)}`
          : WORDS[example.kind]
      const what =
        example.key === ''
          ? path
          : alike.length > 1
            ? `${subject({ pattern })}, ${alike.length} keys, in ${path}`
            : `${oneLine(example.key, 60)} in ${path}`
      lines.push(...wrap(`${what}: ${values}`, width, '      '))
    }
    if (questions.length > MOST_ROWS)
      lines.push(`      and ${count(questions.length - MOST_ROWS, 'more question')}`)
  }
  if (wiped.length > 0)
    say(
      `Will be wiped: ${count(wiped.length, 'edit')}, since the config takes vanilla's file: ${paths(wiped)}`,
    )
  if (near.length > 0)
    say(
      `Touches entries that you edited, and merges: ${count(near.length, 'change')}: ${patterns(near)}`,
    )
  say(
    `Will be carried: ${count(counts.edits, 'edit')} of yours; ${count(counts.merging, 'change')} of vanilla ${counts.merging === 1 ? 'merges' : 'merge'} into the same files`,
  )
  if (counts.both > 0) say(`Made by both alike: ${count(counts.both, 'key')}`)
  if (unread.length > 0)
    say(paint.open(`Could not be read: ${unread.join(', ')}; anagnosis carry says why`))
  return lines
}

const WORDS: Record<string, string> = {
  'gone-in-vanilla': 'vanilla dropped it, and you had changed it',
  'gone-in-mine': 'you dropped it, and vanilla has changed it',
  'two-new': 'both brought it, differently',
  shape: 'it is of another shape now',
  order: 'both re-ordered it',
  lines: 'both rewrote these lines',
  file: 'both changed the file, which has no keys',
}

function paths(changes: readonly (Change & { path: string })[]): string {
  const all = [...new Set(changes.map(({ path }) => path))]
  return all.slice(0, 4).join(', ') + (all.length > 4 ? ` and ${all.length - 4} more` : '')
}

/** `find worth (12), find fragile (3)`, the most frequent first. */
function patterns(changes: readonly Change[]): string {
  const counts = new Map<string, number>()
  for (const { key } of changes) {
    const name = subject({ pattern: keyPattern(key) })
    counts.set(name, (counts.get(name) ?? 0) + 1)
  }
  const sorted = [...counts].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))
  const said = sorted.slice(0, 5).map(([name, number]) => `${name} (${number})`)
  return said.join(', ') + (sorted.length > 5 ? `, and ${sorted.length - 5} more` : '')
}
