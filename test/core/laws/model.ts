import fc from 'fast-check'

/**
 * A made-up data file, apart from any format: entries with an id, values by name, parts inside them,
 * and comments in every position. Edits are made on this model and rendered as XML, JSON or INI, so
 * what a carry must give can be worked out without the code under test.
 */
export interface Entry {
  id: string
  values: [name: string, value: string][]
  parts: Entry[]
  above: string[]
  behind: string
  /** A comment of its own, apart from the entry by a blank line, above it. */
  free: string
  gap: boolean
}

export interface Model {
  entries: Entry[]
  last: string
}

/** Entries that can be edited while those they are made from stay; many times faster than a clone of anything. */
export function copied(entries: readonly Entry[]): Entry[] {
  return entries.map((each) => ({
    ...each,
    values: each.values.map(([name, value]) => [name, value]),
    parts: copied(each.parts),
    above: [...each.above],
  }))
}

/** How a model is written down. */
export interface Style {
  indent: string
  /** What ends a line; `mixed` is LF and CRLF in turn. */
  lineEnd: string
  quote: string
  finalLineEnd: boolean
  reversedValues: boolean
  /** How characters that mean something to XML are written. */
  escaping: 'entity' | 'number' | 'cdata'
  /** A blank where one may stand: around `=`, before the end of a tag. */
  loose: boolean
}

export const PLAIN: Style = {
  indent: '  ',
  lineEnd: '\n',
  quote: '"',
  finalLineEnd: true,
  reversedValues: false,
  escaping: 'entity',
  loose: false,
}

export const styles: fc.Arbitrary<Style> = fc.record({
  indent: fc.constantFrom('  ', '    ', '\t', ''),
  lineEnd: fc.constantFrom('\n', '\r\n', '\r', 'mixed'),
  quote: fc.constantFrom('"', "'"),
  finalLineEnd: fc.boolean(),
  reversedValues: fc.boolean(),
  escaping: fc.constantFrom('entity' as const, 'number' as const, 'cdata' as const),
  loose: fc.boolean(),
})

const names = ['worth', 'weight', 'depth', 'bottom', 'hours']
const word = fc.constantFrom(
  'reef',
  'kelp',
  'silt',
  'hull',
  'tide',
  'lamp',
  'salt & brine',
  'a < b',
)
const value = fc.oneof(fc.integer({ min: 0, max: 40 }).map(String), word, fc.constant(''))
const comment = fc.tuple(word, fc.integer({ min: 0, max: 99 })).map(([text, n]) => `${text} ${n}`)
const maybe = (text: fc.Arbitrary<string>): fc.Arbitrary<string> =>
  fc.oneof({ weight: 3, arbitrary: fc.constant('') }, { weight: 1, arbitrary: text })

/** Enough values, and of enough range, that an entry is known by them. */
const telling = fc
  .tuple(...names.map(() => fc.noBias(fc.integer({ min: 0, max: 9999 }))))
  .map((numbers) => names.map((name, i): [string, string] => [name, String(numbers[i])]))

function entry(depth: number, rich = false): fc.Arbitrary<Entry> {
  const values = rich
    ? telling
    : fc.uniqueArray(fc.tuple(fc.constantFrom(...names), value), {
        selector: ([name]) => name,
        maxLength: 4,
      })
  return fc.record({
    id: fc.constant(''),
    values,
    parts: depth === 0 ? fc.constant([]) : fc.array(entry(depth - 1, rich), { maxLength: 2 }),
    above: fc.oneof(
      { weight: 3, arbitrary: fc.constant<string[]>([]) },
      { weight: 1, arbitrary: fc.array(comment, { minLength: 1, maxLength: 2 }) },
    ),
    behind: maybe(comment),
    free: maybe(comment),
    gap: fc.boolean(),
  })
}

function withIds(entries: Entry[], prefix: string): Entry[] {
  return entries.map((each, i) => ({
    ...each,
    id: `${prefix}${i}`,
    parts: withIds(each.parts, `${prefix}${i}p`),
  }))
}

/**
 * @param depth how deep entries stand in entries
 * @param rich whether every entry has values enough to be known by them
 */
export function models(depth: number, rich = false): fc.Arbitrary<Model> {
  return fc
    .record({ entries: fc.array(entry(depth, rich), { maxLength: 5 }), last: maybe(comment) })
    .map((model) => ({ ...model, entries: withIds(model.entries, 'e') }))
}

/** One edit; numbers choose the entry and the value, modulo what there is. */
export type Edit =
  | { do: 'set' | 'add-value'; at: number; which: number; value: string }
  | { do: 'remove-value'; at: number; which: number }
  | { do: 'remove' | 'swap'; at: number }
  | { do: 'add'; at: number; entry: Entry; name: number }
  | { do: 'above' | 'behind' | 'free' | 'last'; at: number; text: string }
  | { do: 'gap'; at: number }

const place = fc.nat({ max: 30 })

function editsOf(rich: boolean): fc.Arbitrary<Edit> {
  return fc.oneof(
    {
      weight: 6,
      arbitrary: fc.record({ do: fc.constant('set' as const), at: place, which: place, value }),
    },
    {
      weight: 2,
      arbitrary: fc.record({
        do: fc.constant('add-value' as const),
        at: place,
        which: place,
        value,
      }),
    },
    {
      weight: 2,
      arbitrary: fc.record({ do: fc.constant('remove-value' as const), at: place, which: place }),
    },
    { weight: 2, arbitrary: fc.record({ do: fc.constant('remove' as const), at: place }) },
    { weight: 1, arbitrary: fc.record({ do: fc.constant('swap' as const), at: place }) },
    {
      weight: 4,
      arbitrary: fc.record({
        do: fc.constant('add' as const),
        at: place,
        entry: entry(1, rich),
        name: fc.nat({ max: 5 }),
      }),
    },
    {
      weight: 3,
      arbitrary: fc.record({
        do: fc.constantFrom('above' as const, 'behind' as const, 'free' as const, 'last' as const),
        at: place,
        text: maybe(comment),
      }),
    },
    { weight: 1, arbitrary: fc.record({ do: fc.constant('gap' as const), at: place }) },
  )
}

export const edits = editsOf(false)

function allEntries(entries: Entry[]): { entry: Entry; siblings: Entry[] }[] {
  return entries.flatMap((each) => [{ entry: each, siblings: entries }, ...allEntries(each.parts)])
}

/** The model after an edit; the model itself stays. `flat` keeps additions at the top level. */
export function edited(model: Model, edit: Edit, flat: boolean): Model {
  const copy = { ...model, entries: copied(model.entries) }
  const all = allEntries(copy.entries)
  const chosen = all[all.length === 0 ? 0 : edit.at % all.length]
  if (edit.do === 'last') copy.last = edit.text
  else if (edit.do === 'add') addEntry(copy, edit, flat ? undefined : chosen)
  else if (chosen !== undefined) editEntry(chosen, edit)
  return copy
}

function addEntry(
  model: Model,
  edit: Extract<Edit, { do: 'add' }>,
  chosen: { siblings: Entry[] } | undefined,
): void {
  const siblings = chosen?.siblings ?? model.entries
  const id = `new${edit.name}`
  if (siblings.some((each) => each.id === id)) return
  const added = { ...edit.entry, id, parts: [] as Entry[] }
  siblings.splice(edit.at % (siblings.length + 1), 0, added)
}

function editEntry(
  { entry: chosen, siblings }: { entry: Entry; siblings: Entry[] },
  edit: Edit,
): void {
  const index = siblings.indexOf(chosen)
  switch (edit.do) {
    case 'set': {
      const pair = chosen.values[edit.which % Math.max(1, chosen.values.length)]
      if (pair !== undefined) pair[1] = edit.value
      break
    }
    case 'add-value': {
      const name = names[edit.which % names.length] ?? 'worth'
      if (!chosen.values.some(([known]) => known === name)) chosen.values.push([name, edit.value])
      break
    }
    case 'remove-value':
      chosen.values.splice(edit.which % Math.max(1, chosen.values.length), 1)
      break
    case 'remove':
      siblings.splice(index, 1)
      break
    case 'swap':
      if (index > 0) siblings.splice(index - 1, 2, chosen, siblings[index - 1] ?? chosen)
      break
    case 'above':
      chosen.above = edit.text === '' ? [] : [edit.text]
      break
    case 'behind':
      chosen.behind = edit.text
      break
    case 'free':
      chosen.free = edit.text
      break
    case 'gap':
      chosen.gap = !chosen.gap
      break
    default:
      break
  }
}

/** Old, and new and mine made from it by edits of their own. */
export interface Story {
  old: Model
  fresh: Model
  mine: Model
}

export function stories(depth: number, rich = false): fc.Arbitrary<Story> {
  const several = fc.array(editsOf(rich), { maxLength: 6 })
  return fc.tuple(models(depth, rich), several, several).map(([old, byVanilla, byMine]) => ({
    old,
    fresh: byVanilla.reduce((model, edit) => edited(model, edit, depth === 0), old),
    mine: byMine.reduce((model, edit) => edited(model, edit, depth === 0), old),
  }))
}

/** Every value of a model by its key, and an empty value for the entry itself. */
export function flattened(entries: readonly Entry[], prefix = ''): Map<string, string> {
  const flat = new Map<string, string>()
  for (const each of entries) {
    const key = `${prefix}${each.id}`
    flat.set(key, '')
    for (const [name, text] of each.values) flat.set(`${key}.${name}`, text)
    for (const [inner, text] of flattened(each.parts, `${key}/`)) flat.set(inner, text)
  }
  return flat
}

/** All comments of a model. */
export function commentsOf(model: Model): string[] {
  const all = allEntries(model.entries).flatMap(({ entry: each }) => [
    ...each.above,
    each.behind,
    each.free,
  ])
  return [...all, model.last].filter((text) => text !== '')
}
