import { lstatSync, readFileSync, readlinkSync, realpathSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { hashOf } from '../draft/hash.ts'
import { EXIT, Failure, systemFailure } from '../failure.ts'
import type { Disk } from '../io/disk.ts'

const QUIET = { throwIfNoEntry: false } as const

/** What another program that has a file open makes the system say. */
const HELD = new Set(['EBUSY', 'EPERM', 'EACCES'])
/** So often a file is tried that another program holds open, with so many milliseconds between. */
const TRIES = 6
const BETWEEN = 150

/** What stands at a place: a hash, or where a link leads; null where nothing is. @throws Failure where it may not be read */
export function standing(place: string): string | null {
  const there = lstatSync(place, QUIET)
  if (there === undefined) return null
  if (there.isSymbolicLink()) return `link:${readlinkSync(place)}`
  try {
    return there.isFile() ? hashOf(readFileSync(place)) : 'other'
  } catch (error) {
    throw systemFailure(error, 'Reading', place)
  }
}

/** A live folder in which files are put, each by a rename, so that every one of them is whole at any moment. */
export class LiveFolder {
  private readonly root: string

  /** @param id what the names of files beside begin with, behind `.anagnosis-` */
  constructor(
    folder: string,
    private readonly id: string,
    private readonly disk: Disk,
  ) {
    this.root = realpathSync(folder)
  }

  at(path: string): string {
    return join(this.root, ...path.split('/'))
  }

  /** What stands at a path. */
  standing(path: string): string | null {
    return standing(this.at(path))
  }

  /** Writes a copy beside a path, with its mode and its time. @param number tells it from all others */
  stage(path: string, source: string, number: number): void {
    const { disk } = this
    const beside = this.beside(path, number)
    this.guarded(path, () => {
      disk.mkdirSync(dirname(beside), { recursive: true })
      disk.rmSync(beside, { force: true })
      const there = lstatSync(source)
      if (there.isSymbolicLink()) {
        disk.symlinkSync(readlinkSync(source), beside)
        return
      }
      const bytes = readFileSync(source)
      const handle = disk.openSync(beside, 'wx', 0o600)
      try {
        for (let at = 0; at < bytes.length;) at += disk.writeSync(handle, bytes, at)
        disk.fchmodSync(handle, there.mode & 0o777)
        disk.futimesSync(handle, there.atime, there.mtime)
        flush(disk, handle)
      } finally {
        disk.closeSync(handle)
      }
    })
  }

  /** Puts a staged copy in its place. */
  async put(path: string, number: number): Promise<void> {
    await this.retried(path, () => {
      this.disk.renameSync(this.beside(path, number), this.at(path))
    })
  }

  async remove(path: string): Promise<void> {
    await this.retried(path, () => {
      this.disk.rmSync(this.at(path), { force: true })
    })
  }

  /** Removes folders that are empty, from that of a path outwards. */
  removeEmpty(path: string): void {
    for (let at = path; at.includes('/');) {
      at = at.slice(0, at.lastIndexOf('/'))
      try {
        this.disk.rmdirSync(this.at(at))
      } catch {
        return // it holds something, or is gone already
      }
    }
  }

  /** Removes what was staged and not put in its place. */
  unstage(path: string, number: number): void {
    this.guarded(path, () => {
      this.disk.rmSync(this.beside(path, number), { force: true })
    })
  }

  private beside(path: string, number: number): string {
    return join(dirname(this.at(path)), `.anagnosis-${this.id}-${number}`)
  }

  private guarded(path: string, write: () => void): void {
    try {
      write()
    } catch (error) {
      throw systemFailure(error, 'Writing', this.at(path))
    }
  }

  /** Tries again where another program holds the file open. @throws Failure that names the file */
  private async retried(path: string, change: () => void): Promise<void> {
    for (let tries = 1; ; tries++) {
      try {
        change()
        return
      } catch (error) {
        const code = error instanceof Error && 'code' in error ? String(error.code) : ''
        if (!HELD.has(code)) throw systemFailure(error, 'Writing', this.at(path))
        if (tries === TRIES) throw held(path, error)
        await pause(BETWEEN)
      }
    }
  }
}

/** Not every disk can be flushed, and one that cannot keeps what was written all the same. */
function flush(disk: Disk, handle: number): void {
  try {
    disk.fsyncSync(handle)
  } catch (error) {
    const code = error instanceof Error && 'code' in error ? error.code : ''
    if (code !== 'EINVAL' && code !== 'ENOTSUP' && code !== 'EPERM') throw error
  }
}

function held(path: string, cause: unknown): Failure {
  return new Failure('deliver/held-open', `${path} is held open, or may not be written`, {
    exit: EXIT.refused,
    path,
    hint: 'close the game or the server, and deliver again; what was live is live',
    cause,
  })
}
