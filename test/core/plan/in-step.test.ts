import { expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

// What ran in step in each of the three files and does not in the result is told, and nothing else is.

const columns = (all: Record<string, readonly unknown[]>): string =>
  `${JSON.stringify(all, undefined, 2)}\n`
const keys = (all: Record<string, number>): string =>
  `[Gear]\n${Object.entries(all)
    .map(([name, value]) => `${name}=${value}\n`)
    .join('')}`

const GEAR = { names: ['oar', 'net', 'bell'], loads: [5, 3, 8] }
const TWO = { load1: 5, load2: 3, crew1: 2, crew2: 4 }

test.each<[what: string, format: FormatName, texts: [string, string, string], told: string[]]>([
  [
    'one value too many in one of two lists',
    'json',
    [
      columns({ names: ['oar', 'net'], loads: [3, 3] }),
      columns({ names: ['oar'], loads: [3] }),
      columns({ names: ['net'], loads: [3] }),
    ],
    [
      'names and loads are as long as one another in old, new and yours, but now have 0 and 1 entries',
    ],
  ],
  [
    'lists of one length, each of which one side made longer',
    'json',
    [
      columns(GEAR),
      columns({ ...GEAR, names: [...GEAR.names, 'tar'] }),
      columns({ ...GEAR, loads: [...GEAR.loads, 9] }),
    ],
    [],
  ],
  [
    'one list and a new one that is as long',
    'json',
    [columns({ names: GEAR.names }), columns(GEAR), columns({ names: ['oar', 'bell'] })],
    [],
  ],
  [
    'lists of one entry, which each side replaced by another',
    'json',
    [
      columns({ finds: [{ id: 'k1', worth: 4 }], loads: [5] }),
      columns({ finds: [{ id: 'k2', worth: 6 }], loads: [5] }),
      columns({ finds: [{ id: 'k3', worth: 7 }], loads: [5] }),
    ],
    [],
  ],
  [
    'a new key of a number that mine dropped',
    'ini',
    [keys(TWO), keys({ ...TWO, mast1: 1, mast2: 2 }), keys({ load1: 5, crew1: 2 })],
    [
      'the result has Gear/mast2 but no Gear/load2: in old, new and yours neither stands without the other',
    ],
  ],
  [
    'numbers with zeros before them',
    'ini',
    [
      keys({ load01: 5, load02: 3, load03: 8 }),
      keys({ load01: 5, load02: 3, load03: 8, load04: 9 }),
      keys({ load01: 5, load02: 3 }),
    ],
    [
      'the result has Gear/load04 but no Gear/load03: in old, new and yours neither stands without the other',
    ],
  ],
  [
    'a gap that one side made',
    'ini',
    [
      keys({ load1: 5, load2: 3, load3: 8 }),
      keys({ load1: 5, load2: 3, load3: 8, load4: 9 }),
      keys({ load1: 5, load3: 8 }),
    ],
    [],
  ],
])('%s', (_, format, texts, told) => {
  const { problems } = carryText(texts, { format: formatNamed(format), path: `gear.${format}` })
  const notes = problems.filter(({ code }) => code === 'carry/out-of-step')
  expect(notes.map(({ message }) => message)).toEqual(told)
})
