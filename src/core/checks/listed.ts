import { z } from 'zod'
import { checkKind } from './check.ts'
import type { Found } from './check.ts'
import { knownNames } from './known-names.ts'
import { anyPlace, common, keyPlace } from './parts.ts'
import type { Standing } from './scope.ts'

/** What stands at one place is listed at another, and nothing else is. */
export const listed = checkKind({
  kind: 'listed',
  schema: z.strictObject({ listed: anyPlace, in: keyPlace, ...common }),
  run({ listed: place, in: list }, scope, _, found) {
    const [things, names] = [scope.at(place), scope.at(list)]
    if (things.length === 0) found.nothingAt(place)
    if (names.length === 0) found.nothingAt(list)
    tellMissing(things, names, (value) => `${value} is not listed at ${list}`, found)
    tellMissing(
      names,
      things,
      (value) => `${value} is listed, and none of that name is at ${place}`,
      found,
    )
  },
})

/** Tells of each that has no equal among the others. */
function tellMissing(
  ones: readonly Standing[],
  others: readonly Standing[],
  message: (value: string) => string,
  found: Found,
): void {
  const missOf = knownNames(others)
  for (const each of ones) {
    const { value } = each
    const miss = value === undefined ? undefined : missOf(value)
    if (value === undefined || miss === undefined) continue
    found.finding(each, {
      message: message(value) + miss.butAlike,
      expected: 'the same names at both places',
      nearest: miss.nearest,
    })
  }
}
