import { z } from 'zod'
import { gather, timesOf } from '../document/gather.ts'
import { alike, howTheyDiffer } from './alike-texts.ts'
import { checkKind } from './check.ts'
import { anyPlace, common } from './parts.ts'
import type { Standing } from './scope.ts'

/** What stands at several places is the same text, for each name that the wildcards stand for. */
export const agree = checkKind({
  kind: 'agree',
  schema: z.strictObject({
    agree: z
      .array(anyPlace)
      .min(2)
      .describe(
        'Places with the same text, for each * : ["add-ons/*/", "add-ons/*/about.json: id"]',
      ),
    ...common,
  }),
  run({ agree: places }, scope, _, found) {
    const groups = new Map<string, { standing: Standing; place: string }[]>()
    for (const place of places) {
      const all = scope.at(place)
      if (all.length === 0) found.nothingAt(place)
      // names that differ only in what the eye overlooks are meant to be one
      for (const standing of all)
        gather(groups, standing.captured.map(alike).join('\0'), { standing, place })
    }
    for (const group of groups.values()) {
      const texts = group.map(({ standing }) => standing.value ?? '')
      const wanted = usual(texts)
      for (const { standing } of group) {
        const { value = '' } = standing
        if (value === wanted) continue
        const how = howTheyDiffer(value, wanted)
        const other = group.find((each) => each.standing.value === wanted)
        found.finding(standing, {
          message: `${value} is to be the same as ${wanted}, of ${nameOf(other?.standing)}${how === undefined ? '' : `; they differ in ${how}`}`,
          expected: wanted,
          nearest: wanted,
        })
      }
      const lacking = places.filter((place) => !group.some((each) => each.place === place))
      const [first] = group
      if (first !== undefined)
        for (const place of lacking)
          found.finding(first.standing, {
            message: `nothing stands at ${place} for ${first.standing.captured.join(', ')}`,
            expected: `${wanted} at ${place}`,
          })
    }
  },
})

/** The text that most have; of several the first. */
function usual(texts: readonly string[]): string {
  const times = [...timesOf(texts)]
  const most = Math.max(...times.map(([, count]) => count))
  return times.find(([, count]) => count === most)?.[0] ?? ''
}

function nameOf(standing: Standing | undefined): string {
  if (standing === undefined) return ''
  return standing.key === '' ? standing.path : `${standing.path}: ${standing.key}`
}
