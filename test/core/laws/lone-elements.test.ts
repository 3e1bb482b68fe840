import { describe, expect, test } from 'vitest'
import type { CarriedText } from '../../../src/core/carry/carry-text.ts'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { Triple } from '../../../src/core/document/sides.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

/** What an element says of its name, and of two settings beside that; '' where it has none. */
type Says = readonly [name: string, kind: string, size: string]

/** The only element of its name in each document: with a name inside that may be a setting like the others. */
function written(step: string, [name, kind, size]: Says): string {
  const line = (called: string, text: string): string =>
    text === '' ? '' : `    <${called}>${text}</${called}>\n`
  const inside = line(step, name) + line('kind', kind) + line('size', size)
  return `<harbour>\n  <pier>\n${inside}  </pier>\n</harbour>\n`
}

const NAMES = ['cape', 'reef', 'wreck']
const all: readonly Says[] = NAMES.flatMap((name) =>
  ['', 'stone', 'wood'].flatMap((kind) => ['', '4'].map((size): Says => [name, kind, size])),
)
const olds = all.filter(([name, kind]) => name === 'cape' && kind !== 'wood')

function carry(step: string, says: Triple<Says>): CarriedText {
  const [old, fresh, mine] = says.map((each) => written(step, each))
  const texts: Triple<string> = [old ?? '', fresh ?? '', mine ?? '']
  return carryText(texts, { format: formatNamed('xml'), path: 'a' })
}

/** Whether new and mine changed one thing differently. */
function areAtOdds([old, fresh, mine]: Triple<Says>): boolean {
  return old.some((was, i) => was !== fresh[i] && was !== mine[i] && fresh[i] !== mine[i])
}

describe.each(['name', 'ShownName', 'id'])('a lone element with a %s inside', (step) => {
  test('stands twice only with a question, and is asked where both changed one thing of it', () => {
    for (const old of olds)
      for (const fresh of all)
        for (const mine of all) {
          const says: Triple<Says> = [old, fresh, mine]
          const { conflicts, text = '' } = carry(step, says)
          const shown = JSON.stringify(says)
          // an id that both gave is an entry that both brought
          const isNew = step === 'id' && fresh[0] === mine[0] && fresh[0] !== old[0]
          if (areAtOdds(says) && !isNew) expect(conflicts, shown).not.toEqual([])
          const exchanged = carry(step, [old, mine, fresh])
          expect(exchanged.conflicts.length > 0, shown).toBe(conflicts.length > 0)
          if (conflicts.length > 0) continue
          expect(text.split('<pier>'), shown).toHaveLength(2)
          const again = [written(step, old), written(step, fresh), text] as const
          expect(carryText(again, { format: formatNamed('xml'), path: 'a' }).text).toBe(text)
        }
  })
})
