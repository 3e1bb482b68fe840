import fc from 'fast-check'
import { describe, test } from 'vitest'
import { lawsOf, lawsOfJudgement } from './laws.ts'
import { renderers, sharedIdentity, withoutIdentity } from './render.ts'
import { RUNS } from './runs.ts'

const sorts = [
  ...renderers.map((renderer) => ({ sort: 'identities', renderer, laws: lawsOf(renderer) })),
  ...withoutIdentity.map((renderer) => ({
    sort: 'no identity',
    renderer,
    laws: lawsOfJudgement(renderer),
  })),
  ...sharedIdentity.map((renderer) => ({
    sort: 'shared identities',
    renderer,
    laws: lawsOfJudgement(renderer),
  })),
]

describe.each(sorts)('laws of carry, $renderer.name with $sort', ({ laws }) => {
  test.each(laws)('$name', ({ property }) => {
    fc.assert(property, RUNS)
  })
})
