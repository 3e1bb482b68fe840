import { readFileSync } from 'node:fs'
import { hostname } from 'node:os'
import lockfile from 'proper-lockfile'
import { EXIT, Failure, systemFailure } from '../failure.ts'
import type { Disk } from './disk.ts'
import { isRunning } from './running.ts'
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
  await takeFromDead(root, disk)
  const release = await acquire(root)
  await disk.writeWhole(ownerOf(root), JSON.stringify(OWNER)).catch(() => undefined) // then it is told by its age alone
  try {
    return await work()
  } finally {
    await disk.remove(ownerOf(root)).catch(() => undefined) // the next run writes its own
    await release().catch(() => undefined) // it was taken over, or the folder is gone: there is nothing to give back
  }
}

/** Who holds a lock: the machine, the process, and when that began (milliseconds since 1970). */
interface Owner {
  host: string
  pid: number
  started: number
}

const OWNER: Owner = {
  host: hostname(),
  pid: process.pid,
  started: Math.round(Date.now() - process.uptime() * 1000),
}

/** Marks something as held by this process, until `release` or the end of the process. */
export async function hold(path: string, disk: Disk = DISK): Promise<() => Promise<void>> {
  await disk.writeWhole(path, JSON.stringify(OWNER))
  return () => disk.remove(path).catch(() => undefined) // a dead holder holds nothing
}

/** Whether another process that runs holds something; one of another machine is not seen. */
export function isHeldByOther(path: string): boolean {
  const owner = readOwner(path)
  if (owner === undefined || owner.host !== OWNER.host) return false
  return owner.pid !== OWNER.pid && isRunning(owner.pid)
}

function ownerOf(root: string): string {
  return `${root}/lock.json`
}

/** Takes the lock of a process of this machine away that is gone; that of another machine is told by its age. */
async function takeFromDead(root: string, disk: Disk): Promise<void> {
  const owner = readOwner(ownerOf(root))
  if (owner === undefined || owner.host !== OWNER.host || isRunning(owner.pid)) return
  const claimed = `${ownerOf(root)}.${OWNER.pid}`
  try {
    // of several runs that see a dead one only one moves its name away
    await disk.rename(ownerOf(root), claimed)
    const was = readOwner(claimed)
    if (was?.pid === owner.pid && was.started === owner.started) {
      await disk.remove(`${root}/lock`)
      await disk.remove(claimed)
    } else await disk.rename(claimed, ownerOf(root))
  } catch {
    return // another run was faster; if none was, the lock is taken over by its age
  }
}

function readOwner(path: string): Owner | undefined {
  try {
    const { host, pid, started } = JSON.parse(readFileSync(path, 'utf8')) as Partial<Owner> // what else it may be is looked at
    const isOwner =
      typeof host === 'string' && typeof pid === 'number' && typeof started === 'number'
    return isOwner ? { host, pid, started } : undefined
  } catch {
    return undefined // nobody holds it, or nobody said so
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
