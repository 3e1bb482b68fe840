import type { ListedReleases } from '../core/facts/release.ts'
import { nameOf } from '../core/facts/release.ts'
import { findRelease, NO_VANILLA } from './store/release.ts'
import type { Workspace } from './workspace.ts'

/** The releases in the store, in their order, and which variants stand on which. */
export async function listReleases({ store, variants }: Workspace): Promise<ListedReleases> {
  const releases = await store.releases()
  const sizes = await store.contentOf(releases)
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
      .filter(
        ({ vanilla }) => vanilla !== NO_VANILLA && findRelease(releases, vanilla) === undefined,
      )
      .map(({ name, vanilla }) => ({ variant: name, vanilla })),
  }
}
