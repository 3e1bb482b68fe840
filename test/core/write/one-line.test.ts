import fc from 'fast-check'
import { expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { triple } from '../../../src/core/document/sides.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import { RUNS } from '../laws/runs.ts'

type Members = Record<string, number>

/** An object on one line, with the blanks that most programs write. */
const onOneLine = (members: Members, pad = ''): string => {
  const all = Object.entries(members).map(([name, value]) => `"${name}": ${value}`)
  return all.length === 0 ? '{}' : `{${pad}${all.join(', ')}${pad}}`
}

const members = fc.dictionary(
  fc.constantFrom('bed', 'depth', 'hours', 'load', 'worth'),
  fc.nat({ max: 2 }),
  { minKeys: 2 },
)

test('on one line each blank stays where it was, whatever goes and comes before it', () => {
  fc.assert(
    fc.property(members, members, members, fc.constantFrom('', ' '), (old, fresh, mine, pad) => {
      const inputs = [old, fresh, mine]
      const texts = triple((side) => onOneLine(inputs[side] ?? {}, pad))
      const { text = '' } = carryText(texts, { format: formatNamed('json'), path: 'a.json' })
      const read = JSON.parse(text) as Members
      if (Object.keys(read).length > 0) expect(text).toBe(onOneLine(read, pad))
    }),
    RUNS,
  )
})
