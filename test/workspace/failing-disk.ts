import type { Disk } from '../../src/workspace/io/disk.ts'
import { DISK } from '../../src/workspace/io/disk.ts'

/**
 * A disk on which the nth call fails as on a full one, and no other; and how many were made.
 *
 * @param isKilled whether all calls after it fail, too, as those of a program that was killed
 */
export function failingAt(nth: number, isKilled = false): Disk & { readonly made: number } {
  let made = 0
  const guarded = (name: string, call: (...given: unknown[]) => unknown) =>
    function (...given: unknown[]): unknown {
      if (name === 'lstatSync' || name === 'close') return call(...given)
      if (++made < nth || (made > nth && !isKilled)) return call(...given)
      const full = Object.assign(new Error('no space'), { code: 'ENOSPC' })
      if (name.endsWith('Sync')) throw full
      return Promise.reject(full)
    }
  const disk = Object.fromEntries(
    Object.entries(DISK)
      .filter(([, call]) => typeof call === 'function')
      .map(([name, call]) => [name, guarded(name, call as () => unknown)]),
  ) as unknown as Disk // it has the calls of the disk that there is
  const openNew = disk.openNew.bind(disk)
  return {
    ...disk,
    async openNew(path) {
      const file = await openNew(path)
      return {
        write: async (bytes) => guarded('write', () => file.write(bytes))() as Promise<void>,
        close: () => file.close(),
      }
    },
    get made() {
      return made
    },
  }
}

/**
 * Does something as often as it makes calls, with another one failing each time; at last none does.
 *
 * @param check told of each failure
 * @param undo called where a call failed and it was done all the same
 * @returns how many calls failed
 */
export async function failEach(
  attempt: (disk: Disk) => Promise<unknown>,
  check: (error: unknown) => Promise<void>,
  undo: () => Promise<unknown> = () => Promise.resolve(),
): Promise<number> {
  for (let nth = 1; ; nth++) {
    const disk = failingAt(nth)
    const failure = await attempt(disk).then(
      () => undefined,
      (error: unknown) => ({ error }),
    )
    if (failure !== undefined) await check(failure.error)
    else if (disk.made < nth) return nth - 1
    else await undo()
  }
}
