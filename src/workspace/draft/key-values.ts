import type { StoredValues } from '../../core/report/remembered.ts'
import { storedValues } from '../../core/report/remembered.ts'
import type { Triple } from '../../core/document/sides.ts'
import { SIDE_NAMES, triple } from '../../core/document/sides.ts'
import type { Explained } from '../../core/report/explained.ts'
import { mergedReport } from '../carry/merged-report.ts'
import { ruleFor } from '../config/file-rule.ts'
import type { FileTree } from '../tree.ts'
import { readBytes } from '../tree.ts'
import type { Workspace } from '../workspace.ts'

type Contents = Triple<Buffer | undefined>

/** What three folders have of a file. @param was the path that it had in old, where it was renamed */
export function inputBytes(
  trees: Triple<FileTree>,
  path: string,
  was: string | undefined,
): Contents {
  return triple((side) => {
    const entry = trees[side].get(path) ?? (was === undefined ? undefined : trees[side].get(was))
    return entry?.kind === 'file' ? readBytes(entry.location) : undefined
  })
}

/** What three inputs have at a key, as decisions remember it; undefined where none has it. */
export async function valuesAtKey(
  workspace: Workspace,
  path: string,
  bytes: Contents,
  key: string,
): Promise<StoredValues | undefined> {
  const explained = await explainedAt(workspace, path, bytes, key)
  if (explained?.is !== 'there') return undefined
  const [old, fresh, mine] = SIDE_NAMES.map((side) => explained.key[side])
  return storedValues({ old: old ?? null, new: fresh ?? null, mine: mine ?? null })
}

/** The key of a file that is nearest to one that it has not. */
export async function nearestKeyIn(
  workspace: Workspace,
  path: string,
  bytes: Contents,
  key: string,
): Promise<string | undefined> {
  const explained = await explainedAt(workspace, path, bytes, key)
  return explained?.is === 'not-there' ? explained.nearest : undefined
}

async function explainedAt(
  workspace: Workspace,
  path: string,
  [old, fresh, mine]: Contents,
  key: string,
): Promise<Explained | undefined> {
  const { explained } = await mergedReport({
    path,
    bytes: [old, fresh, mine],
    rule: ruleFor(workspace.config, path),
    explain: `${path}:${key}`,
  })
  return explained
}
