import type { TreeEntry } from '../tree.ts'
import type { Release } from '../../core/facts/release.ts'
import type { Store } from './store.ts'

/** A release as a tree of files on disk; its links are left out. */
export async function releaseTree(store: Store, release: Release): Promise<Map<string, TreeEntry>> {
  const tree = new Map<string, TreeEntry>()
  for (const { path, hash } of await store.files(release)) {
    if (hash !== undefined) tree.set(path, { kind: 'file', location: store.layout.object(hash) })
  }
  return tree
}
