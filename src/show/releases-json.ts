import type { Release } from '../core/facts/release.ts'
import { nameOf } from '../core/facts/release.ts'
import type { CarryVariantsDocument } from './carry-document.ts'

/** Releases by their names, in the order of the store. */
export function releasesJson(releases: readonly Release[]): CarryVariantsDocument['releases'] {
  return Object.fromEntries(
    releases.map((release, order) => {
      const { label, revision, added } = release
      return [nameOf(release), { label, revision, trial: revision !== null, added, order }]
    }),
  )
}
