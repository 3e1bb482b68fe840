import { z } from 'zod'
import { checkKind } from './check.ts'
import { common, keyPlace } from './parts.ts'
import { noNumber, numberOf, shown } from './values.ts'

/** Every value is a number between two others. */
export const inRange = checkKind({
  kind: 'in-range',
  schema: z.strictObject({
    every: keyPlace,
    'in-range': z
      .tuple([z.number(), z.number()])
      .refine(([least, most]) => least <= most, 'the least stands first, and the most behind it')
      .describe('The least and the most'),
    ...common,
  }),
  run({ every, 'in-range': [least, most] }, scope, _, found) {
    const all = scope.at(every)
    if (all.length === 0) found.nothingAt(every)
    const expected = `a number from ${least} to ${most}`
    for (const each of all) {
      const value = numberOf(each.value)
      if (value === undefined) found.finding(each, noNumber(each.value, expected))
      else if (value < least)
        found.finding(each, {
          message: `${shown(each.value)} is below ${least}`,
          expected,
          nearest: String(least),
        })
      else if (value > most)
        found.finding(each, {
          message: `${shown(each.value)} is above ${most}`,
          expected,
          nearest: String(most),
        })
    }
  },
})
