import fc from 'fast-check'
import { expect, test, vi } from 'vitest'
import type { CarriedText } from '../../../src/core/carry/carry-text.ts'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { SameRuns } from '../../../src/core/carry/same-run.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import type { Texts } from './laws.ts'
import { IDENTITY } from './laws.ts'
import type { Entry, Model, Story } from './model.ts'
import { PLAIN, stories } from './model.ts'
import type { Renderer } from './render.ts'
import { renderers } from './render.ts'
import { RUNS } from './runs.ts'

/** Entries that stand in all documents as they are: long enough to be copied, enough to be a run. */
const UNTOUCHED: readonly Entry[] = Array.from({ length: 24 }, (_, i) => ({
  id: `pad${i}`,
  values: [
    ['worth', `${i}`],
    ['weight', 'as heavy as the anchor of a ship of the line'],
  ],
  above: [],
  behind: '',
  free: '',
  gap: false,
  parts: [],
}))

const among = (model: Model): Model => ({
  ...model,
  entries: [...UNTOUCHED, ...model.entries, ...UNTOUCHED.map((e) => ({ ...e, id: `${e.id}end` }))],
})

function carried({ name, render }: Renderer, { old, fresh, mine }: Story): CarriedText {
  const texts: Texts = [render(old, PLAIN), render(fresh, PLAIN), render(mine, PLAIN)]
  return carryText(texts, { format: formatNamed(name), path: `finds.${name}`, identity: IDENTITY })
}

/** The lines of a text without the untouched entries; where the others stand depends on their neighbours. */
function otherLines(text = ''): string[] {
  return text
    .replace(/^ {2}<find id="pad[^]*?\n {2}<\/find>\n/gm, '')
    .replace(/^ {2}\{\n {4}"id": "pad[^]*?\n {2}\},?\n/gm, '')
    .split('\n')
    .map((line) => line.trim().replace(/,(?= \/\/|$)/, ''))
    .filter((line) => line !== '')
    .sort()
}

function told({ changes, conflicts, problems }: CarriedText): unknown {
  return {
    changes,
    conflicts: conflicts.map((conflict) => ({ ...conflict, at: null })),
    problems: problems.map(({ code, message }) => [code, message]),
  }
}

test.each(renderers.filter(({ name }) => name !== 'ini'))(
  'entries that nobody touched change nothing about the others ($name)',
  (renderer) => {
    const runs = vi.spyOn(SameRuns.prototype, 'lengthAt')
    fc.assert(
      fc.property(stories(renderer.depth), ({ old, fresh, mine }) => {
        const alone = carried(renderer, { old, fresh, mine })
        const amongOthers = carried(renderer, {
          old: among(old),
          fresh: among(fresh),
          mine: among(mine),
        })
        expect(told(amongOthers)).toEqual(told(alone))
        expect(otherLines(amongOthers.text)).toEqual(otherLines(alone.text))
      }),
      { ...RUNS, numRuns: Math.ceil(RUNS.numRuns / 4) },
    )
    expect(runs.mock.results.some(({ value }) => Number(value) > 20)).toBe(true)
  },
)
