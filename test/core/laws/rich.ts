import fc from 'fast-check'
import type { Entry, Model, Story } from './model.ts'
import { edited } from './model.ts'

/*
 * Stories of documents as games ship them: texts and comments over several lines, long names, values that
 * repeat, entries of which some or all lack an identity, tuples that grow, and lists of up to 300 entries.
 */

const NAMES = ['worth', 'depth', 'note', 'slots', 'how-far-below-the-line-of-low-water', 'hours']

const word = fc.constantFrom('reef', 'kelp', 'silt', 'lamp', 'empty', 'empty', 'salt & brine')
const lines = fc
  .array(fc.tuple(fc.constantFrom('', '  ', '      ', '\t'), word), { minLength: 2, maxLength: 4 })
  .map((all) => all.map(([indent, text], i) => (i === 0 ? text : indent + text)).join('\n'))
const tuple = fc
  .array(fc.oneof(fc.nat(3).map(String), fc.constantFrom('"spawn"', '"crab"', 'true')), {
    minLength: 1,
    maxLength: 4,
  })
  .map((items) => `[${items.join(', ')}]`)
const value = fc.oneof(
  { weight: 4, arbitrary: fc.nat(9).map(String) },
  { weight: 2, arbitrary: word },
  { weight: 2, arbitrary: lines },
  { weight: 1, arbitrary: tuple },
)
const comment = fc.oneof(word, lines)

function entry(depth: number): fc.Arbitrary<Entry> {
  return fc.record({
    id: fc.constant(''),
    values: fc.uniqueArray(fc.tuple(fc.constantFrom(...NAMES), value), {
      selector: ([name]) => name,
      maxLength: 5,
    }),
    parts: depth === 0 ? fc.constant([]) : fc.array(entry(depth - 1), { maxLength: 3 }),
    above: fc.oneof(
      { weight: 4, arbitrary: fc.constant<string[]>([]) },
      { weight: 1, arbitrary: fc.array(comment, { minLength: 1, maxLength: 2 }) },
    ),
    behind: fc.oneof({ weight: 4, arbitrary: fc.constant('') }, { weight: 1, arbitrary: word }),
    free: fc.oneof({ weight: 5, arbitrary: fc.constant('') }, { weight: 1, arbitrary: comment }),
    gap: fc.boolean(),
  })
}

/** Which entries have an identity. */
type Named = 'all' | 'some' | 'none'

function withIds(entries: readonly Entry[], prefix: string, named: Named): Entry[] {
  return entries.map((each, i) => ({
    ...each,
    id: named === 'none' || (named === 'some' && i % 3 === 1) ? '' : `${prefix}${i}`,
    parts: withIds(each.parts, `${prefix}${i}p`, named),
  }))
}

/** Entries that nobody edits, between those that somebody may. */
function padded(entries: readonly Entry[], count: number): Entry[] {
  const each = Math.ceil(count / (entries.length + 1))
  const pad = (from: number): Entry[] =>
    Array.from({ length: Math.min(each, count - from) }, (_, i) => ({
      id: '',
      values: [
        ['worth', `${from + i}`],
        ['note', 'as heavy as the anchor of a ship of the line'],
      ],
      above: [],
      behind: i % 13 === 5 ? 'behind' : '',
      free: i % 17 === 3 ? 'apart' : '',
      gap: i % 5 === 0,
      parts: [],
    }))
  return [...entries.flatMap((own, i) => [...pad(i * each), own]), ...pad(entries.length * each)]
}

const place = fc.nat(400)
const edit = fc.oneof(
  {
    weight: 6,
    arbitrary: fc.record({ do: fc.constant('set' as const), at: place, which: place, value }),
  },
  {
    weight: 2,
    arbitrary: fc.record({ do: fc.constant('add-value' as const), at: place, which: place, value }),
  },
  {
    weight: 1,
    arbitrary: fc.record({ do: fc.constant('remove-value' as const), at: place, which: place }),
  },
  { weight: 2, arbitrary: fc.record({ do: fc.constant('remove' as const), at: place }) },
  { weight: 1, arbitrary: fc.record({ do: fc.constant('swap' as const), at: place }) },
  {
    weight: 3,
    arbitrary: fc.record({
      do: fc.constant('add' as const),
      at: place,
      entry: entry(0),
      name: fc.nat(5),
    }),
  },
  {
    weight: 2,
    arbitrary: fc.record({
      do: fc.constantFrom('above' as const, 'free' as const, 'last' as const),
      at: place,
      text: comment,
    }),
  },
)

const models: fc.Arbitrary<Model> = fc
  .record({
    entries: fc.array(entry(1), { maxLength: 5 }),
    last: fc.oneof(fc.constant(''), comment),
    count: fc.constantFrom(0, 0, 0, 1, 20, 45, 45, 300),
    named: fc.constantFrom<Named[]>('all', 'all', 'some', 'none'),
  })
  .map(({ entries, last, count, named }) => ({
    entries: withIds(padded(entries, count), 'e', named),
    last,
  }))

/** @param flat whether entries stand in no others */
export function richStories(flat: boolean): fc.Arbitrary<Story> {
  const several = fc.array(edit, { maxLength: 6 })
  return fc.tuple(models, several, several).map(([model, byVanilla, byMine]) => {
    const old = flat
      ? { ...model, entries: model.entries.map((each) => ({ ...each, parts: [] })) }
      : model
    return {
      old,
      fresh: byVanilla.reduce((known, each) => edited(known, each, true), old),
      mine: byMine.reduce((known, each) => edited(known, each, true), old),
    }
  })
}
