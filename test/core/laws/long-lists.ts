import fc from 'fast-check'
import type { Entry, Story } from './model.ts'
import { copied } from './model.ts'

/** Entries with an identity each, and two values. */
export function list(count: number): Entry[] {
  return Array.from({ length: count }, (_, i) => ({
    id: `f${i}`,
    values: [
      ['worth', `${i}`],
      ['note', `as heavy as anchor ${i}`],
    ],
    parts: [],
    above: [],
    behind: '',
    free: '',
    gap: false,
  }))
}

/** What is done to a list, at a place, to one entry or to some that follow each other. */
type Edit = { at: number; count: number; to: number } & {
  do:
    | 'set'
    | 'gap'
    | 'above'
    | 'behind'
    | 'free'
    | 'insert'
    | 'copy'
    | 'remove'
    | 'move'
    | 'rename'
    | 'rename-and-move'
    | 'nameless'
}

const edits: fc.Arbitrary<Edit> = fc.record({
  do: fc.constantFrom<Edit['do'][]>(
    ...(['set', 'set', 'gap', 'above', 'behind', 'free', 'insert', 'copy', 'remove'] as const),
    ...(['move', 'rename', 'rename-and-move', 'rename-and-move', 'nameless'] as const),
  ),
  at: fc.nat(59),
  count: fc.integer({ min: 1, max: 9 }),
  to: fc.integer({ min: -14, max: 14 }),
})

function edited(entries: readonly Entry[], edit: Edit, mark: string): Entry[] {
  const all = copied(entries)
  const at = edit.at % all.length
  const entry = all[at]
  if (entry === undefined) return all
  const some = all.slice(at, at + edit.count)
  const target = Math.max(0, at + edit.to)
  switch (edit.do) {
    case 'set':
      entry.values[0] = ['worth', `${mark}${edit.to}`]
      break
    case 'gap':
      entry.gap = !entry.gap
      break
    case 'above':
      entry.above = [edit.to > 0 ? 'apart' : `${mark} ${edit.to}`]
      break
    case 'behind':
      entry.behind = mark
      break
    case 'free':
      entry.free = edit.to > 0 ? 'apart' : mark
      break
    case 'insert':
      all.splice(at, 0, { ...entry, id: `${mark}${edit.count}`, values: [['worth', mark]] })
      break
    case 'copy':
      all.splice(target, 0, ...copied([entry]))
      break
    case 'remove':
      all.splice(at, edit.count)
      break
    case 'nameless':
      entry.id = ''
      break
    default:
      if (edit.do !== 'move') for (const each of some) each.id = `${mark}-${each.id}`
      if (edit.do !== 'rename') all.splice(target, 0, ...all.splice(at, edit.count))
  }
  return all
}

/** Long lists that both sides edited here and there, so that most entries stand as nobody touched them. */
export const longLists: fc.Arbitrary<Story> = fc
  .tuple(fc.integer({ min: 24, max: 60 }), ...[0, 1].map(() => fc.array(edits, { maxLength: 3 })))
  .map(([count, byVanilla = [], byMine = []]) => {
    const old = list(count).map((entry, i) => ({
      ...entry,
      free: i % 7 === 3 ? 'apart' : '',
      above: i % 11 === 5 ? ['above'] : [],
    }))
    const after = (all: readonly Edit[], mark: string): Entry[] =>
      all.reduce<Entry[]>((entries, edit) => edited(entries, edit, mark), old)
    return {
      old: { entries: old, last: '' },
      fresh: { entries: after(byVanilla, 'vanilla'), last: '' },
      mine: { entries: after(byMine, 'harbour'), last: '' },
    }
  })
