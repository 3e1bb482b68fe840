import type { Release } from '../../core/facts/release.ts'
import { EXIT, Failure } from '../failure.ts'
import { withLock } from '../io/lock.ts'
import { releaseNamed } from './release.ts'
import type { Store } from './store.ts'

/** Moves a release before or behind another one; gives all of them in their new order. */
export async function orderRelease(
  store: Store,
  name: string,
  place: { before: string } | { after: string },
): Promise<Release[]> {
  return withLock(
    store.layout.root,
    async () => {
      const releases = await store.releases()
      const moved = releaseNamed(releases, name)
      const beside = releaseNamed(releases, 'before' in place ? place.before : place.after)
      if (moved === beside)
        throw new Failure('call/wrong', `${name} cannot stand before or behind itself`, {
          exit: EXIT.wrongCall,
          hint: 'name two releases',
        })
      const rest = releases.filter((each) => each !== moved)
      const at = rest.indexOf(beside) + ('before' in place ? 0 : 1)
      const ordered = [...rest.slice(0, at), moved, ...rest.slice(at)]
      await store.writeReleases(ordered)
      return ordered
    },
    store.disk,
  )
}
