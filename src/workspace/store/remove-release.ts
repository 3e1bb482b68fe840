import { EXIT, Failure } from '../failure.ts'
import { withLock } from '../io/lock.ts'
import type { Release } from '../../core/facts/release.ts'
import { nameOf } from '../../core/facts/release.ts'
import { findRelease, releaseNamed } from './release.ts'
import type { Store } from './store.ts'

/** Takes a release out of the store, and what of it no other has; refuses while a variant stands on it. */
export async function removeRelease(
  store: Store,
  name: string,
  variants: readonly { name: string; vanilla: string }[],
): Promise<{ release: Release; freedBytes: number }> {
  return withLock(
    store.layout.root,
    async () => {
      const releases = await store.releases()
      const release = releaseNamed(releases, name)
      const standing = variants.filter(({ vanilla }) => findRelease(releases, vanilla) === release)
      if (standing.length > 0) {
        const names = standing.map((variant) => variant.name).join(' and ')
        throw new Failure(
          'vanilla/in-use',
          `vanilla ${nameOf(release)} is what ${names} was made from`,
          {
            exit: EXIT.refused,
            hint: 'carry the variant to another vanilla first, or take it out of anagnosis.yaml',
          },
        )
      }
      const before = await store.contentOf(releases)
      const rest = releases.filter((each) => each !== release)
      await store.writeReleases(rest)
      await store.sweep()
      const after = await store.contentOf(rest)
      const freedBytes = [...before].reduce(
        (sum, [hash, size]) => sum + (after.has(hash) ? 0 : size),
        0,
      )
      return { release, freedBytes }
    },
    store.disk,
  )
}
