import { z } from 'zod'
import { gather } from '../document/gather.ts'
import { checkKind } from './check.ts'
import { common, keyPlace } from './parts.ts'
import { parsePlace, pathMatcher } from './pattern.ts'
import type { Standing } from './scope.ts'

/** No value stands at two keys of a pattern. */
export const unique = checkKind({
  kind: 'unique',
  schema: z.strictObject({ unique: keyPlace, ...common }),
  run({ unique: place }, scope, _, found) {
    const all = scope.at(place)
    if (all.length === 0) found.nothingAt(place)
    const byValue = new Map<string, Standing[]>()
    for (const each of all) if (each.value !== undefined) gather(byValue, each.value, each)
    for (const [value, [first, ...others]] of byValue)
      for (const other of others)
        found.finding(other, {
          message: `${value} stands here once more; the first is ${where(first, other)}`,
          expected: 'a value that no other has',
        })
  },
})

/** What checks say that tells the entries of a file apart: place to identity, where a value of all entries is unique. */
export function identitiesByChecks(checks: readonly object[], path: string): Map<string, string> {
  const identities = new Map<string, string>()
  for (const check of checks) {
    const { data } = unique.schema.safeParse(check)
    if (data === undefined) continue
    const { files, keys = '' } = parsePlace(data.unique)
    const [, place = '', value] = /^((?:.*\/)?[^/[]*)\[\*\]\/([^[*]+)$/.exec(keys) ?? []
    if (value === undefined || pathMatcher(files)(path) === undefined) continue
    identities.set(place.replaceAll('[*]', ''), value)
  }
  return identities
}

function where(first: Standing | undefined, other: Standing): string {
  const line = first?.at === null || first === undefined ? '' : ` in line ${first.at.line}`
  return first?.path === other.path ? `${first.key}${line}` : `in ${first?.path ?? ''}${line}`
}
