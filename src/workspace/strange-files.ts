import { existsSync, lstatSync } from 'node:fs'
import { join } from 'node:path'
import type { SourceRemark } from '../core/facts/release.ts'
import { hashOf } from './draft/hash.ts'
import { CONFIG_NAME, STATE_NAME } from './state/layout.ts'
import type { ManifestFile } from './store/release.ts'
import { findRelease } from './store/release.ts'
import { readBytes } from './tree.ts'
import type { Workspace } from './workspace.ts'

/** Names of what is no part of a game: their presence tells that a folder is in use for something else. */
const STRANGE: Record<string, string> = {
  '.git': 'a repository',
  [CONFIG_NAME]: 'the config of a workspace',
  [STATE_NAME]: 'the state of a workspace',
}

/** What a source of untouched files should not hold. */
export function strangeFiles(files: readonly ManifestFile[]): SourceRemark[] {
  const found = new Map<string, string>()
  for (const { path } of files)
    for (const step of path.split('/'))
      if (STRANGE[step] !== undefined && !found.has(step)) found.set(step, path)
  return [...found].map(([step, path]) => ({
    path,
    code: 'source/strange',
    message: `is of ${STRANGE[step] ?? ''}: is the source really untouched?`,
  }))
}

/** Files that are the same as an edited file of a variant: then the source is not vanilla's. */
export async function editedFiles(
  workspace: Workspace,
  files: readonly ManifestFile[],
): Promise<SourceRemark[]> {
  const { store, variants } = workspace
  const releases = await store.releases()
  const remarks: SourceRemark[] = []
  for (const { name, vanilla, location } of variants) {
    const own = findRelease(releases, vanilla)
    if (own === undefined || !existsSync(location)) continue
    const known = new Map((await store.files(own)).map(({ path, hash }) => [path, hash]))
    const same = files.filter(({ path, hash, size }) => {
      const before = known.get(path)
      if (hash === undefined || before === undefined || before === hash) return false
      const place = join(location, path)
      const there = lstatSync(place, { throwIfNoEntry: false })
      return there?.isFile() === true && there.size === size && hashOf(readBytes(place)) === hash
    })
    const [first] = same
    if (first === undefined) continue
    const more = same.length > 1 ? `, and ${same.length - 1} more are so` : ''
    remarks.push({
      path: first.path,
      code: 'source/edited',
      message: `is the same as ${name} has it, edited${more}: is the source really untouched?`,
    })
  }
  return remarks
}
