import { z } from 'zod'
import { nearest } from '../keys/nearest.ts'
import { alike, howTheyDiffer } from './alike-texts.ts'
import { checkKind } from './check.ts'
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
    const known = new Set(targets.flatMap(({ value }) => (value === undefined ? [] : [value])))
    const byLook = new Map([...known].map((value) => [alike(value), value]))
    for (const each of all) {
      const { value = '' } = each
      if (known.has(value)) continue
      const near = byLook.get(alike(value)) ?? nearest(value, [...known])
      const how = near === undefined ? undefined : howTheyDiffer(value, near)
      found.finding(each, {
        message: `${shown(each.value)} is nowhere at ${target}${how === undefined ? '' : `; ${near ?? ''} is, which differs in ${how}`}`,
        expected: `a value of ${target}`,
        nearest: near,
      })
    }
  },
})
