import { DISK } from '../io/disk.ts'
import type { SourceRemark } from '../../core/facts/release.ts'
import { StateLayout } from '../state/layout.ts'
import { addRelease } from '../store/add-release.ts'
import { releaseTree } from '../store/release-tree.ts'
import { Store } from '../store/store.ts'
import type { FileTree } from '../tree.ts'

/** A source that was unpacked for one run. */
export interface Unpacked {
  tree: FileTree
  remarks: readonly SourceRemark[]
  remove: () => Promise<void>
}

/** Takes an archive or a revision into a store of its own, with all the checks of a release. */
export async function unpackSource(
  named: string,
  signal: AbortSignal | undefined,
): Promise<Unpacked> {
  const folder = await DISK.makeTemporary('anagnosis-source-')
  const remove = (): Promise<void> => DISK.remove(folder)
  try {
    const store = new Store(new StateLayout(folder))
    const request = { label: 'source', sources: [named], trial: false, only: [], now: new Date(0) }
    const { release, remarks } = await addRelease(store, { ...request, signal })
    return { tree: await releaseTree(store, release, true), remarks, remove }
  } catch (error) {
    await remove()
    throw error
  }
}
