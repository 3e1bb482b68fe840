import { z } from 'zod'
import { checkKind } from './check.ts'
import { knownNames } from './known-names.ts'
import { anyPlace, common, keyPlace } from './parts.ts'
import { shown } from './values.ts'

/** Every value stands somewhere else, too: a reference leads to something. */
export const isIn = checkKind({
  kind: 'is-in',
  schema: z.strictObject({ every: keyPlace, 'is-in': anyPlace, ...common }),
  run({ every, 'is-in': target }, scope, _, found) {
    const [all, targets] = [scope.at(every), scope.at(target)]
    if (all.length === 0) found.nothingAt(every)
    if (targets.length === 0) found.nothingAt(target)
    const missOf = knownNames(targets)
    for (const each of all) {
      const miss = missOf(each.value ?? '')
      if (miss === undefined) continue
      found.finding(each, {
        message: `${shown(each.value)} is nowhere at ${target}${miss.butAlike}`,
        expected: `a value of ${target}`,
        nearest: miss.nearest,
      })
    }
  },
})
