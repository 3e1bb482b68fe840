import type { Release } from './store/release.ts'
import { findRelease, nameOf } from './store/release.ts'
import type { Workspace } from './workspace.ts'

export interface ListedRelease extends Release {
  name: string
  /** The variants that were made from it. */
  variants: string[]
}

export interface ListedReleases {
  releases: ListedRelease[]
  /** Bytes of all content, each once. */
  bytes: number
  /** Variants made from a release that the store has not. */
  missing: { variant: string; vanilla: string }[]
}

/** The releases in the store, in their order, and which variants stand on which. */
export async function listReleases({ store, variants }: Workspace): Promise<ListedReleases> {
  const releases = await store.releases()
  const sizes = new Map<string, number>()
  for (const release of releases) {
    const files = await store.files(release).catch(() => []) // a damaged release is listed, too
    for (const { hash, size = 0 } of files) if (hash !== undefined) sizes.set(hash, size)
  }
  return {
    releases: releases.map((release) => ({
      ...release,
      name: nameOf(release),
      variants: variants
        .filter(({ vanilla }) => findRelease(releases, vanilla) === release)
        .map(({ name }) => name),
    })),
    bytes: [...sizes.values()].reduce((sum, size) => sum + size, 0),
    missing: variants
      .filter(({ vanilla }) => findRelease(releases, vanilla) === undefined)
      .map(({ name, vanilla }) => ({ variant: name, vanilla })),
  }
}
