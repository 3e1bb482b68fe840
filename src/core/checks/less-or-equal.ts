import { z } from 'zod'
import { joinKey } from '../keys/key.ts'
import { checkKind } from './check.ts'
import { common, keyPlace } from './parts.ts'
import { noNumber, numberOf, shown } from './values.ts'

/** In every entry one value is at most as large as another. */
export const lessOrEqual = checkKind({
  kind: 'less-or-equal',
  schema: z.strictObject({
    at: keyPlace,
    'less-or-equal': z
      .tuple([z.string().min(1), z.string().min(1)])
      .describe('Two keys of an entry: the first is at most as large as the second'),
    ...common,
  }),
  run({ at, 'less-or-equal': [low, high] }, scope, _, found) {
    let pairs = 0
    for (const { path, key } of scope.at(at)) {
      const [least, most] = [low, high].map((each) => scope.value(path, joinKey(key, each)))
      if (least === undefined || most === undefined) continue
      pairs++
      const [from, to] = [numberOf(least.value), numberOf(most.value)]
      if (from === undefined) found.finding(least, noNumber(least.value))
      else if (to === undefined) found.finding(most, noNumber(most.value))
      else if (from > to)
        found.finding(least, {
          message: `${low} is ${shown(least.value)}, above ${high}, which is ${shown(most.value)}`,
          expected: `at most ${shown(most.value)}`,
          nearest: most.value,
        })
    }
    if (pairs === 0) found.nothingAt(`${at} with ${low} and ${high}`)
  },
})
