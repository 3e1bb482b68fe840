import { z } from 'zod'
import { checkKind } from './check.ts'
import { common, keyPlace } from './parts.ts'
import { shown } from './values.ts'

const expression = z.string().refine(isExpression, 'this is no regular expression')

/** Every value matches a regular expression. */
export const matches = checkKind({
  kind: 'matches',
  schema: z.strictObject({
    every: keyPlace,
    matches: expression.describe('A regular expression that every value matches: "^[a-z-]+$"'),
    ...common,
  }),
  run({ every, matches: source }, scope, _, found) {
    const all = scope.at(every)
    if (all.length === 0) found.nothingAt(every)
    const wanted = new RegExp(source, 'u')
    for (const each of all)
      if (each.value === undefined || !wanted.test(each.value))
        found.finding(each, {
          message: `${shown(each.value)} does not match ${source}`,
          expected: `a value that matches ${source}`,
          nearest: [each.value?.trim(), each.value?.trim().toLowerCase()].find(
            (near) => near !== undefined && wanted.test(near),
          ),
        })
  },
})

function isExpression(source: string): boolean {
  try {
    new RegExp(source, 'u')
    return true
  } catch {
    return false
  }
}
