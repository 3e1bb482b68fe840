import type { CheckedFolder } from '../core/facts/checked.ts'
import { plainProblem } from './carry-json.ts'
import type { CheckDocument } from './check-document.ts'
import { findingJson } from './finding-json.ts'

/** What the checks of a folder found, as a JSON document. */
export function checkJson(checked: CheckedFolder, next: readonly string[]): CheckDocument {
  const { variant, draft, folder, files, checks, findings, problems } = checked
  return {
    command: 'check',
    schema: 1,
    variant: variant ?? null,
    draft: draft ?? null,
    folder,
    counts: { files, checks, findings: findings.length },
    findings: findings.map(findingJson),
    problems: problems.map((each) => ({
      ...plainProblem(each),
      path: each.path === '' ? null : each.path,
    })),
    next: [...next],
  }
}
