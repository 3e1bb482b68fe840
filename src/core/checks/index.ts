import type { z } from 'zod'
import type { LocatedProblem } from '../report/report.ts'
import { fileProblem } from '../report/report.ts'
import { keyPattern } from '../keys/key.ts'
import { nearest } from '../keys/nearest.ts'
import { agree } from './agree.ts'
import type { CheckContext, CheckKind } from './check.ts'
import { count } from './count.ts'
import type { Finding } from '../report/finding.ts'
import { inRange } from './in-range.ts'
import { isIn } from './is-in.ts'
import { landmark } from './landmark.ts'
import { lessOrEqual } from './less-or-equal.ts'
import { listed } from './listed.ts'
import { matches } from './matches.ts'
import { names } from './names.ts'
import { oneOf } from './one-of.ts'
import { parsePlace } from './pattern.ts'
import { reaches } from './reaches.ts'
import type { Scope } from './scope.ts'
import { unique } from './unique.ts'

/** All kinds of checks, in the order in which people are told of them. A new kind is added here. */
export const CHECKS = [
  unique,
  lessOrEqual,
  inRange,
  oneOf,
  matches,
  isIn,
  agree,
  listed,
  landmark,
  reaches,
  count,
  names,
] as const

/** A check as the config has it. */
export type Check = z.infer<(typeof CHECKS)[number]['schema']>

/** The kind of a check: the member that tells it from the others. */
export function kindOfCheck(check: object): CheckKind | undefined {
  return (CHECKS as readonly CheckKind[]).find(({ kind }) => kind in check)
}

export interface Checked {
  findings: Finding[]
  /** Checks that fit nothing, or could not be made. */
  problems: LocatedProblem[]
}

/** Makes all checks. */
export function runChecks(checks: readonly Check[], scope: Scope, context: CheckContext): Checked {
  const checked: Checked = { findings: [], problems: [] }
  for (const check of checks) {
    const kind = kindOfCheck(check)
    if (kind === undefined) continue
    const warn = (code: string, message: string, hint?: string): void => {
      const said = { severity: 'warning', code, message } as const
      checked.problems.push(fileProblem('', hint === undefined ? said : { ...said, hint }))
    }
    if (check.since !== undefined) {
      const isSince = context.isSince(check.since)
      if (isSince === undefined) warn('check/no-release', noRelease(kind.kind, check.since))
      if (isSince !== true) continue
    }
    kind.run(check, scope, context, {
      finding({ path, key, at, ...shown }, { message, expected, nearest: near }) {
        checked.findings.push({
          path,
          key,
          line: at?.line ?? null,
          column: at?.column ?? null,
          check: kind.kind,
          severity: 'error',
          message,
          expected: expected ?? null,
          nearest: near ?? null,
          ...lineOf(shown),
        })
      },
      nothingAt(place) {
        const near = nearestPlace(place, scope)
        const hint = near === undefined ? undefined : `did you mean ${near}?`
        warn('check/fits-nothing', `${kind.kind}: nothing stands at ${place}`, hint)
      },
      notMade(why) {
        warn('check/not-made', `${kind.kind}: ${why}, so the check was not made`)
      },
    })
  }
  return checked
}

function lineOf({
  line,
  width,
}: {
  line?: string
  width?: number
}): Pick<Finding, 'text' | 'width'> {
  return line === undefined ? {} : { text: line, ...(width === undefined ? {} : { width }) }
}

function noRelease(kind: string, since: string): string {
  return `${kind}: nothing says whether the files are of ${since} or later, so the check was not made`
}

/** The key pattern of the same files that is nearest to one that fits nothing. */
function nearestPlace(place: string, scope: Scope): string | undefined {
  const { files, keys } = parsePlace(place)
  if (keys === undefined) return undefined
  const known = [...new Set(scope.keysNear(place).map(keyPattern))]
  const near = nearest(keys, known)
  return near === undefined ? undefined : `${files}: ${near}`
}
