import assert from 'node:assert/strict'
import fc from 'fast-check'
import { describe, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { Triple } from '../../../src/core/document/sides.ts'
import type { Decision } from '../../../src/core/plan/decide.ts'
import { FORMAT_NAMES, formatNamed } from '../../../src/core/formats/index.ts'
import { dice } from './lists.ts'
import { RUNS } from './runs.ts'
import { ALL_WAYS, carryInAllWays } from './short-ways.ts'

// Waves of an attack, told by names that only number them. Where one was put between them the third wave of old may
// be the fourth of new: no edit lands on another wave unasked.

type Wave = Readonly<Record<string, number>>

const NAMES = ['crabs', 'eels', 'rays', 'pause']

const flat = (waves: readonly Wave[], field: (name: string, value: number) => string): string[] =>
  waves.flatMap((wave, i) => fieldsOf(wave, (k, v) => field(`wave${i + 1}${k}`, v)))

const written: Record<string, (waves: readonly Wave[]) => string> = {
  'ini: keys': (waves) => `[attack]\n${flat(waves, (k, v) => `${k}=${v}\n`).join('')}`,
  'json: keys': (waves) => `{${flat(waves, (k, v) => `\n  "${k}": ${v}`).join(',')}\n}\n`,
  'xml: elements': (waves) =>
    `<attack>${flat(waves, (k, v) => `\n  <${k}>${v}</${k}>`).join('')}\n</attack>\n`,
  'xml: attributes': (waves) =>
    `<attack>\n  <all${flat(waves, (k, v) => ` ${k}="${v}"`).join('')}/>\n</attack>\n`,
  'ini: sections': (waves) =>
    waves
      .map((wave, i) => `[Wave${i + 1}.Spawn]\n${fieldsOf(wave, (k, v) => `${k}=${v}\n`).join('')}`)
      .join('\n'),
  'json: members': (waves) =>
    `{${waves.map((wave, i) => `\n  "wave${i + 1}spawn": ${JSON.stringify(wave)}`).join(',')}\n}\n`,
  ini: (waves) =>
    waves
      .map((wave, i) => `[Wave${i + 1}]\n${fieldsOf(wave, (k, v) => `${k}=${v}\n`).join('')}`)
      .join('\n'),
  json: (waves) =>
    `{${waves.map((wave, i) => `\n  "wave${i + 1}": ${JSON.stringify(wave)}`).join(',')}\n}\n`,
  xml: (waves) =>
    `<attack>${waves.map((wave, i) => `\n  <wave${i + 1}${fieldsOf(wave, (k, v) => ` ${k}="${v}"`).join('')}/>`).join('')}\n</attack>\n`,
}

function fieldsOf(wave: Wave, field: (name: string, value: number) => string): string[] {
  return Object.entries(wave).map(([name, value]) => field(name, value))
}

interface Story {
  old: Wave[]
  fresh: Wave[]
  mine: Wave[]
  /** What the result holds where nobody is asked. */
  expected: Wave[]
}

/** What mine makes of a wave: a key of its own, another value, or one key less. */
function editOf(sort: number, name: string): (wave: Wave) => Wave {
  if (sort === 0) return (wave) => ({ ...wave, own: 7 })
  if (sort === 1) return (wave) => ({ ...wave, [name]: 500 })
  return (wave) => Object.fromEntries(Object.entries(wave).filter(([key]) => key !== name))
}

/** @param isShifted whether vanilla puts waves between others, or takes some out; else it changes values alone */
function story(seed: number, isShifted: boolean): Story {
  const roll = dice(seed)
  const wave = (): Wave => Object.fromEntries(NAMES.map((name) => [name, roll(60)]))
  const old = Array.from({ length: 3 + roll(5) }, wave)
  const mine = [...old]
  const all = old.map((each, number) => ({ number, fresh: each, merged: each }))
  const edited = roll(old.length)
  const edit = editOf(roll(3), NAMES[roll(4)] ?? '')
  mine[edited] = edit(mine[edited] ?? {})
  for (const each of all) if (each.number === edited) each.merged = edit(each.merged)
  for (let change = 1 + roll(2); change > 0; change--) {
    const at = roll(all.length)
    const sort = isShifted ? roll(3) : 2
    const there = all[at]
    if (sort === 0) {
      const fresh = wave()
      all.splice(at, 0, { number: -1, fresh, merged: fresh })
    } else if (there !== undefined && there.number !== edited && all.length > 2) {
      const changes = { [NAMES[roll(4)] ?? '']: 900 + roll(60) }
      if (sort === 1) all.splice(at, 1)
      else
        all[at] = {
          ...there,
          fresh: { ...there.fresh, ...changes },
          merged: { ...there.merged, ...changes },
        }
    }
  }
  return {
    old,
    fresh: all.map(({ fresh }) => fresh),
    mine,
    expected: all.map(({ merged }) => merged),
  }
}

describe.each(Object.entries(written))('names that only number entries in %s', (name, write) => {
  const format = FORMAT_NAMES.find((each) => name.startsWith(each)) ?? 'ini'
  const options = { format: formatNamed(format), path: `attack.${format}` }
  const carry = (texts: Triple<string>, decisions: Decision[] = []) =>
    carryText(texts, { ...options, decisions })

  test('no edit lands on another entry unasked', () => {
    fc.assert(
      fc.property(fc.nat(), (seed) => {
        const { old, fresh, mine, expected } = story(seed, true)
        const texts: Triple<string> = [write(old), write(fresh), write(mine)]
        const { text, conflicts, problems } = carryInAllWays(texts, options, [ALL_WAYS])
        const back = carry([texts[0], texts[2], texts[1]])
        const keys = conflicts.map(({ key }) => key)
        assert.deepEqual(back.conflicts.map(({ key }) => key).sort(), [...keys].sort())
        assert.equal(carry([texts[0], texts[1], text ?? '']).text, text)
        // of what both dropped nothing can be asked
        const isTold = problems.some(({ code }) => code === 'carry/other-number')
        if (keys.length === 0 && !isTold)
          assert.equal(text?.replace(/\s/g, ''), write(expected).replace(/\s/g, ''))
        const decided = carry(
          texts,
          keys.map((key) => ({ key, by: 'decision', take: 'vanilla' })),
        )
        assert.deepEqual([decided.conflicts, decided.notApplied], [[], undefined])
      }),
      RUNS,
    )
  })

  test('where none was put between them nobody is asked', () => {
    fc.assert(
      fc.property(fc.nat(), (seed) => {
        const { old, fresh, mine, expected } = story(seed, false)
        const { text, conflicts } = carry([write(old), write(fresh), write(mine)])
        assert.deepEqual(conflicts, [])
        assert.equal(text?.replace(/\s/g, ''), write(expected).replace(/\s/g, ''))
      }),
      RUNS,
    )
  })
})

test('two values that sections of one number exchanged are no sign that these have other numbers', () => {
  const section = (number: number, values: readonly number[]): string =>
    `[Wave${number}]\n${values.map((value, at) => `${NAMES[at] ?? ''}=${value}\n`).join('')}`
  const old = section(1, [1, 2, 3]) + section(2, [4, 5, 6])
  const fresh = section(1, [4, 5, 3]) + section(2, [1, 2, 6])
  const mine = section(1, [1, 2, 9]) + section(2, [4, 5, 6])
  const { text, conflicts } = carryText([old, fresh, mine], {
    format: formatNamed('ini'),
    path: 'attack.ini',
  })
  assert.deepEqual([text, conflicts], [section(1, [4, 5, 9]) + section(2, [1, 2, 6]), []])
})

describe('numbered keys, column by column', () => {
  const boats = ['Smack', 'Ketch', 'Raft', 'Skiff', 'Barge']
  const columns = (all: readonly string[], more = ''): string =>
    `[Harbour]\n${all.map((name, at) => `Name${at}=${name}\n`).join('')}${all
      .map((name, at) => `Crew${at}=${boats.indexOf(name)}\n`)
      .join('')}${more}`
  const without = (name: string): string[] => boats.filter((each) => each !== name)
  const carry = (fresh: string, mine: string) =>
    carryText([columns(boats), fresh, mine], { format: formatNamed('ini'), path: 'harbour.ini' })

  test('where each side dropped another entry what stands under a number is asked', () => {
    const { conflicts } = carry(columns(without('Raft')), columns(without('Ketch')))
    assert.deepEqual(
      conflicts.map(({ key }) => key),
      ['Harbour/Name1', 'Harbour/Crew1'],
    )
  })

  test('where both have the same numbers there is nothing to tell', () => {
    const fresh = columns(without('Raft'))
    const { text, conflicts, problems } = carry(fresh, `${fresh}Depth=9\n`)
    assert.deepEqual([text, conflicts, problems], [`${fresh}Depth=9\n`, [], []])
  })
})
