import { z } from 'zod'
import { checkKind } from './check.ts'
import { common, keyPlace } from './parts.ts'
import { shown } from './values.ts'

/** Every value, a version in numbers with dots between, is at least a version. */
export const reaches = checkKind({
  kind: 'reaches',
  schema: z.strictObject({
    every: keyPlace,
    reaches: z
      .string()
      .regex(
        /^(game-version|[0-9]+(\.[0-9]+)*)$/,
        'game-version, or numbers with dots, are expected',
      )
      .describe('game-version, or a version in quotes: "4.2"'),
    ...common,
  }),
  run({ every, reaches: named }, scope, { gameVersion }, found) {
    const all = scope.at(every)
    if (all.length === 0) found.nothingAt(every)
    const wanted = named === 'game-version' ? gameVersion : named
    if (wanted === undefined) {
      found.notMade('nothing says which version of the game the files are for')
      return
    }
    for (const each of all) {
      const version = /^\s*v?([0-9]+(?:\.[0-9]+)*)/.exec(each.value ?? '')?.[1]
      if (version === undefined || isBefore(version, wanted))
        found.finding(each, {
          message: `${shown(each.value)} does not reach ${wanted}`,
          expected: `${wanted} or later`,
          nearest: wanted,
        })
    }
  },
})

/** Compares numbers with dots between; what is not there is 0. */
function isBefore(one: string, other: string): boolean {
  const [a, b] = [one, other].map((each) => each.split('.').map(Number))
  for (let i = 0; i < Math.max(a?.length ?? 0, b?.length ?? 0); i++) {
    const difference = (a?.[i] ?? 0) - (b?.[i] ?? 0)
    if (difference !== 0) return difference < 0
  }
  return false
}
