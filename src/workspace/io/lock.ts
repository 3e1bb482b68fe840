import lockfile from 'proper-lockfile'
import { EXIT, Failure, systemFailure } from '../failure.ts'
import type { Disk } from './disk.ts'
import { DISK } from './disk.ts'

/** Milliseconds after which the lock of a run that was killed is taken over. */
const STALE = 6000

/** Runs `work` while no other run changes the state folder. @throws Failure where another one does */
export async function withLock<T>(
  root: string,
  work: () => Promise<T>,
  disk: Disk = DISK,
): Promise<T> {
  await disk.makeFolder(root).catch((error: unknown) => {
    throw systemFailure(error, 'Making the folder', root)
  })
  const release = await acquire(root)
  try {
    return await work()
  } finally {
    await release().catch(() => undefined) // it was taken over, or the folder is gone: there is nothing to give back
  }
}

async function acquire(root: string): Promise<() => Promise<void>> {
  try {
    return await lockfile.lock(root, {
      stale: STALE,
      update: STALE / 3,
      retries: { retries: 16, minTimeout: 50, maxTimeout: 500, factor: 2 },
      lockfilePath: `${root}/lock`,
      // should the machine have slept so long that another run took over, the write that follows is atomic
      onCompromised: () => undefined,
    })
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ELOCKED')
      // what lock throws has a code
      throw systemFailure(error, 'Locking', root)
    throw new Failure('state/locked', `another run of anagnosis is at work in ${root}`, {
      exit: EXIT.refused,
      path: root,
      hint: 'wait until it has ended, and run this again',
    })
  }
}
