import { z } from 'zod'
import { nearest } from '../keys/nearest.ts'
import { checkKind } from './check.ts'
import { common, keyPlace } from './parts.ts'
import { shown } from './values.ts'

/** Every value is one of some. */
export const oneOf = checkKind({
  kind: 'one-of',
  schema: z.strictObject({
    every: keyPlace,
    'one-of': z
      .array(z.union([z.string(), z.number(), z.boolean()]))
      .min(1)
      .describe('The values that may stand there'),
    ...common,
  }),
  run({ every, 'one-of': allowed }, scope, _, found) {
    const all = scope.at(every)
    if (all.length === 0) found.nothingAt(every)
    const known = allowed.map(String)
    for (const each of all)
      if (each.value === undefined || !known.includes(each.value))
        found.finding(each, {
          message: `${shown(each.value)} is none of the values that may stand here`,
          expected: `one of ${known.join(', ')}`,
          nearest: nearest(each.value ?? '', known),
        })
  },
})
