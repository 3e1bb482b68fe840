import assert from 'node:assert/strict'
import fc from 'fast-check'
import { describe, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { Triple } from '../../../src/core/document/sides.ts'
import { FORMAT_NAMES, formatNamed } from '../../../src/core/formats/index.ts'
import { dice } from './lists.ts'
import { RUNS } from './runs.ts'

// Tables, as games write them: row by row, column by column, as groups that only their order holds together. Their
// values are few, so that many are equal, and what a side changes may be what the other has elsewhere. No edit lands
// on another row, and none is lost, unless somebody is asked.

/** A row; its first value names it, the others are small numbers. */
type Row = readonly (string | number)[]
interface Table {
  columns: readonly string[]
  rows: readonly Row[]
}

const cells = ({ columns }: Table, row: Row): [string, string | number][] =>
  columns.map((name, at) => [name, row[at] ?? 0])
const settings = (table: Table, row: Row): string =>
  cells(table, row)
    .map(([name, value]) => `${name}=${value}\n`)
    .join('')
const json = (value: unknown): string => JSON.stringify(value)
const lines = (table: Table, line: (row: Row) => string): string => table.rows.map(line).join('')
const column = ({ rows }: Table, at: number): (string | number)[] => rows.map((row) => row[at] ?? 0)

interface Form {
  write: (table: Table) => string
  /** Whether all are plain values in a list, where two changes may come to what one other change would. */
  isPlain?: boolean
  /** Whether a table of one length is one value that both changed: a call with its arguments looks like that, too. */
  isOneValue?: boolean
}

const FORMS: Record<string, Form> = {
  'json: a list of each column': {
    write: (table) =>
      `{${table.columns.map((name, at) => `\n  "${name}": ${json(column(table, at))}`).join(',')}\n}\n`,
    isPlain: true,
  },
  'json: rows under their columns': {
    write: ({ columns, rows }) =>
      `{\n  "columns": ${json(columns)},\n  "rows": [\n    ${rows.map(json).join(',\n    ')}\n  ]\n}\n`,
  },
  'json: all values in one list': {
    write: ({ rows }) => `[\n  ${rows.map((row) => row.map(json).join(', ')).join(',\n  ')}\n]\n`,
    isPlain: true,
    isOneValue: true,
  },
  'json: a name, then what it has': {
    write: (table) =>
      `[${table.rows.map((row) => `\n  "${row[0] ?? ''}", ${json(Object.fromEntries(cells(table, row).slice(1)))}`).join(',')}\n]\n`,
    isOneValue: true,
  },
  'ini: groups of keys': {
    write: (table) => `[Gear]\n${lines(table, (row) => settings(table, row))}`,
  },
  'ini: numbered keys, column by column': {
    write: (table) =>
      `[Gear]\n${table.columns
        .map((name, at) =>
          column(table, at)
            .map((value, row) => `${name}${row}=${value}\n`)
            .join(''),
        )
        .join('')}`,
  },
  'ini: numbered sections': {
    write: ({ columns, rows }) =>
      rows.map((row, at) => `[Gear${at}]\n${settings({ columns, rows }, row)}`).join(''),
  },
  'xml: groups of elements': {
    write: (table) =>
      `<gear>\n${lines(table, (row) =>
        cells(table, row)
          .map(([name, value]) => `  <${name}>${value}</${name}>\n`)
          .join(''),
      )}</gear>\n`,
  },
  'xml: numbered elements': {
    write: (table) =>
      `<gear>\n${table.rows
        .map((row, at) => {
          const attributes = cells(table, row).map(([name, value]) => `${name}="${value}"`)
          return `  <gear${at} ${attributes.join(' ')}/>\n`
        })
        .join('')}</gear>\n`,
  },
  'xml: rows of cells': {
    write: (table) =>
      `<gear>\n${lines(table, (row) => `  <row>${row.map((value) => `<cell>${value}</cell>`).join('')}</row>\n`)}</gear>\n`,
  },
  'xml: keys before their values': {
    write: (table) =>
      `<gear>\n${lines(
        table,
        (row) =>
          `  <key>${row[0] ?? ''}</key>\n  <dict>\n${cells(table, row)
            .slice(1)
            .map(([name, value]) => `    <key>${name}</key>\n    <int>${value}</int>\n`)
            .join('')}  </dict>\n`,
      )}</gear>\n`,
  },
}

const NAMES = 'lamp rope net knife buoy hook mast keel sail oar tar cask bell chart pump winch'

interface Story {
  tables: Triple<Table>
  expected: Table
}

/** What each makes of a table: mine edits or drops one row; vanilla touches others, or gives all one more column. */
function story(seed: number, { isPlain = false }: Form): Story {
  const roll = dice(seed)
  const values = [2, 3, 6, 50][roll(4)] ?? 2
  const names = NAMES.split(' ')
  const columns = ['name', 'price', 'weight', 'depth'].slice(0, 2 + roll(3))
  const row = (): Row => [
    ...names.splice(roll(names.length), 1),
    ...columns.slice(1).map(() => roll(values)),
  ]
  const rows = Array.from({ length: 2 + roll(5) }, row)
  const edited = rows[roll(rows.length)] ?? []
  const at = 1 + roll(columns.length - 1)
  const own = roll(2) === 0 ? 77 : roll(values)
  const isDropped = roll(5) === 0
  const all = rows.map((each) => ({ fresh: each, isEdited: each === edited }))
  const isWider = roll(3) === 0
  const changes = isPlain ? (isWider ? 0 : 1) : 1 + roll(2)
  for (let change = 0; change < changes; change++) {
    const where = roll(all.length)
    const there = all[where]
    const sort = roll(4)
    if (sort < 2) all.splice(roll(all.length + 1), 0, { fresh: row(), isEdited: false })
    else if (there === undefined || there.isEdited) continue
    else if (sort === 2) all.splice(where, all.length > 2 ? 1 : 0)
    else there.fresh = there.fresh.map((value, i) => (i === at ? 90 + roll(5) : value))
  }
  const added = 1 + roll(columns.length)
  const usual = roll(values)
  const widened = all.map(({ fresh, isEdited }) => {
    if (!isWider) return { fresh, isEdited, at }
    const value = roll(2) === 0 ? usual : roll(values)
    return { fresh: fresh.toSpliced(added, 0, value), isEdited, at: added <= at ? at + 1 : at }
  })
  const now = isWider ? columns.toSpliced(added, 0, 'extra') : columns
  const edit = (each: Row, place: number): Row[] => (isDropped ? [] : [each.with(place, own)])
  return {
    tables: [
      { columns, rows },
      { columns: now, rows: widened.map(({ fresh }) => fresh) },
      { columns, rows: rows.flatMap((each) => (each === edited ? edit(each, at) : [each])) },
    ],
    expected: {
      columns: now,
      rows: widened.flatMap((each) => (each.isEdited ? edit(each.fresh, each.at) : [each.fresh])),
    },
  }
}

/** What tells that something may belong to another row. */
const TELLS = new Set(['carry/other-number', 'carry/out-of-step'])

const withoutBlanks = (text: string | undefined): string | undefined => text?.replace(/\s/g, '')

describe.each(Object.entries(FORMS))('a table in %s', (name, form) => {
  const format = FORMAT_NAMES.find((each) => name.startsWith(each)) ?? 'ini'
  const carry = (texts: Triple<string>) =>
    carryText(texts, { format: formatNamed(format), path: `gear.${format}` })

  test('no edit lands on another row, or is lost, unasked', () => {
    fc.assert(
      fc.property(fc.nat(), (seed) => {
        const { tables, expected } = story(seed, form)
        const [old, fresh, mine] = tables.map(form.write) as [string, string, string]
        const { text, conflicts, problems } = carry([old, fresh, mine])
        const isAsked = conflicts.length > 0
        const { conflicts: back } = carry([old, mine, fresh])
        assert.equal(back.length > 0, isAsked)
        assert.equal(carry([old, fresh, text ?? '']).text, text)
        const isTold = problems.some(({ code }) => TELLS.has(code))
        if (!isAsked && !isTold)
          assert.equal(withoutBlanks(text), withoutBlanks(form.write(expected)))
      }),
      RUNS,
    )
  })
})

const inParts = Object.entries(FORMS).filter(([, { isOneValue = false }]) => !isOneValue)

test.each(inParts)('of rows all different nobody is asked: %s', (name, form) => {
  const format = FORMAT_NAMES.find((each) => name.startsWith(each)) ?? 'ini'
  const columns = ['name', 'price', 'weight']
  const rows = NAMES.split(' ').map((each, at): Row => [each, 100 + at, 200 + at])
  const old = { columns, rows }
  const fresh = { columns, rows: rows.with(3, ['knife', 7, 203]) }
  const mine = { columns, rows: rows.with(12, ['bell', 112, 8]) }
  const expected = { columns, rows: fresh.rows.with(12, ['bell', 112, 8]) }
  const texts = [old, fresh, mine].map(form.write) as unknown as Triple<string>
  const { text, conflicts } = carryText(texts, { format: formatNamed(format), path: 'gear' })
  assert.deepEqual([text, conflicts], [form.write(expected), []])
})
