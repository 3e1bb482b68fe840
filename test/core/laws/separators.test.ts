import assert from 'node:assert/strict'
import { describe, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { Triple } from '../../../src/core/document/sides.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

// Entries of several kinds in one container, with an equal separator behind many of them: which of the separators
// is new must not hang on what stands, or no longer stands, further up.

const PLACE = ['Title', 'Shut', 'dial', 'Rule', 'gauge', 'Rule', 'lamp', 'Rule', 'dial', 'Button']
const LEAST_APART = 3

/** An entry of a panel, with a number that says which it is of its kind. */
type Entry = readonly [kind: string, number: number]

const formats = {
  xml: ([kind, number]: Entry): string => {
    const width = number * 7
    if (kind === 'Rule') return '  <rule/>'
    return kind === kind.toLowerCase()
      ? `  <part><label>${kind} ${number}</label><width>${width}</width></part>`
      : `  <${kind}>${width}</${kind}>`
  },
  ini: ([kind, number]: Entry): string => {
    const width = number * 7
    if (kind === 'Rule') return 'Rule=1'
    return kind === kind.toLowerCase()
      ? `Part=(label=${kind} ${number},width=${width})`
      : `${kind}=${width}`
  },
}

describe.each(['xml', 'ini'] as const)('equal separators among entries in %s', (name) => {
  const [open, close] = name === 'xml' ? ['<panel>\n', '</panel>\n'] : ['[panel]\n', '']
  const written = (entries: readonly Entry[]): string =>
    `${open}${entries.map((entry) => `${formats[name](entry)}\n`).join('')}${close}`
  const carry = (texts: Triple<string>) =>
    carryText(texts, { format: formatNamed(name), path: 'a' })

  const old = PLACE.map((kind, at): Entry => [kind, at])
  const added: readonly Entry[][] = [
    [
      ['Rule', 0],
      ['dial', 50],
    ],
    [
      ['dial', 50],
      ['Rule', 0],
    ],
  ]

  test('one that vanilla brings is no question where mine dropped an entry elsewhere', () => {
    for (let put = 0; put <= old.length; put++)
      for (const block of added)
        for (const [at, entry] of old.entries()) {
          if (entry[0] === 'Rule' || Math.abs(at - put) < LEAST_APART) continue
          const mine = [...old.slice(0, at), ...old.slice(at + 1)]
          const putInto = (list: readonly Entry[]): Entry[] => {
            const before = put === old.length ? list.length : list.indexOf(old[put] ?? entry)
            return [...list.slice(0, before), ...block, ...list.slice(before)]
          }
          const fresh = written(putInto(old))
          const expected = written(putInto(mine))
          const shown = `${fresh}\n${written(mine)}`
          for (const texts of [
            [fresh, written(mine)],
            [written(mine), fresh],
          ] as const) {
            const { text, conflicts } = carry([written(old), ...texts])
            assert.deepEqual(conflicts, [], shown)
            assert.equal(text, expected, shown)
          }
          assert.equal(carry([written(old), fresh, expected]).text, expected, shown)
        }
  })
})
