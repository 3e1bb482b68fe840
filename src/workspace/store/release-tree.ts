import type { TreeEntry } from '../tree.ts'
import type { Release } from '../../core/facts/release.ts'
import type { Store } from './store.ts'

/** A release as a tree of files on disk, with its links where `withLinks` says so. */
export async function releaseTree(
  store: Store,
  release: Release,
  withLinks = false,
): Promise<Map<string, TreeEntry>> {
  const tree = new Map<string, TreeEntry>()
  for (const { path, hash, mode, link } of await store.files(release)) {
    if (hash !== undefined)
      tree.set(path, { kind: 'file', location: store.layout.object(hash), mode })
    else if (withLinks && link !== undefined)
      tree.set(path, { kind: 'link', location: path, to: link })
  }
  return tree
}
