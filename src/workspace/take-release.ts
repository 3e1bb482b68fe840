import type { TakenRelease } from '../core/facts/release.ts'
import { nameOf } from '../core/facts/release.ts'
import type { AddRequest } from './store/add-release.ts'
import { addRelease } from './store/add-release.ts'
import { editedFiles, strangeFiles } from './strange-files.ts'
import { parseVersionAt, versionOfRelease } from './version-at.ts'
import type { Workspace } from './workspace.ts'

/** Takes a release into the store of a workspace, and compares what it says of itself with its label. */
export async function takeRelease(
  workspace: Workspace,
  request: AddRequest,
): Promise<TakenRelease> {
  const { store, config } = workspace
  const isLeftOut = (folder: string): ((path: string) => boolean) => workspace.isState(folder)
  const added = await addRelease(store, { ...request, isLeftOut })
  const releases = await store.releases()
  const at = releases.findIndex(
    ({ label, revision }) => nameOf({ label, revision }) === nameOf(added.release),
  )
  const before = releases[at - 1]
  const said =
    config['version-at'] === undefined
      ? undefined
      : versionOfRelease(store, added.files, parseVersionAt(config['version-at']))
  const others = before === undefined ? [] : await store.files(before)
  const { release, sameAs } = added
  const remarks = [
    ...added.remarks,
    ...strangeFiles(added.files),
    ...(await editedFiles(workspace, added.files)),
  ]
  return {
    release,
    sameAs,
    remarks,
    name: nameOf(added.release),
    before: before === undefined ? undefined : nameOf(before),
    says: said === added.release.label ? undefined : said,
    wrapped: commonFolder(
      added.files.map(({ path }) => path),
      others.map(({ path }) => path),
    ),
  }
}

function commonFolder(paths: readonly string[], before: readonly string[]): string | undefined {
  const [first = ''] = paths
  const folder = first.slice(0, first.indexOf('/') + 1)
  if (folder === '' || paths.length < 2 || before.length === 0) return undefined
  if (!paths.every((path) => path.startsWith(folder))) return undefined
  return before.some((path) => path.startsWith(folder)) ? undefined : folder.slice(0, -1)
}
