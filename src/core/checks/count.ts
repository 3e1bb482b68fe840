import { z } from 'zod'
import { checkKind } from './check.ts'
import { anyPlace, common, keyPlace } from './parts.ts'
import { noNumber, numberOf } from './values.ts'

/** There are at most so many of something, as a number or another key says. */
export const count = checkKind({
  kind: 'count',
  schema: z.strictObject({
    count: anyPlace,
    'at-most': z
      .union([z.number(), keyPlace])
      .describe('A number, or the key that holds the number'),
    ...common,
  }),
  run({ count: place, 'at-most': limit }, scope, _, found) {
    const all = scope.at(place)
    if (all.length === 0) found.nothingAt(place)
    const most = typeof limit === 'number' ? limit : numberAt(limit)
    if (most === undefined) return
    const first = all[most]
    if (first === undefined) return
    found.finding(first, {
      message: `this is number ${most + 1} of ${all.length} at ${place}, and at most ${most} may be there`,
      expected: typeof limit === 'number' ? `at most ${most}` : `at most ${most}, as ${limit} says`,
      nearest: String(most),
    })

    function numberAt(key: string): number | undefined {
      const [standing] = scope.at(key)
      if (standing === undefined) {
        found.nothingAt(key)
        return undefined
      }
      const value = numberOf(standing.value)
      if (value === undefined) found.finding(standing, noNumber(standing.value))
      return value
    }
  },
})
