import { basename, dirname, join } from 'node:path'
import { Failure, EXIT, systemFailure } from '../failure.ts'
import type { DiskCalls } from '../io/disk.ts'
import { DISK } from '../io/disk.ts'
import { isRunning } from '../io/running.ts'

/** Where a result goes. */
export interface ResultWriter {
  /** Where it is written until it is put in its place; undefined where nothing is written. */
  readonly location: string | undefined
  /** Writes one file; `path` is relative, with `/`, and empty where the result is a single file. */
  file(path: string, bytes: Uint8Array, mode?: number): void
  folder(path: string): void
  link(path: string, to: string): void
  /** Puts what was written in its place. */
  commit(): void
  /** Removes what was written so far. */
  discard(): void
}

const nothing = (): void => undefined

/** What the name of a mark ends in that a run leaves beside its target as long as it writes. */
const MARK = '.run'

function existsAlready(target: string): Failure {
  return new Failure('out/exists', `${target} exists already`, {
    exit: EXIT.refused,
    path: target,
    hint: 'name another --out, or add --replace',
  })
}

const QUIET = { throwIfNoEntry: false } as const

/** Writes nothing: for a forecast. */
export const NO_OUTPUT: ResultWriter = {
  location: undefined,
  file: nothing,
  folder: nothing,
  link: nothing,
  commit: nothing,
  discard: nothing,
}

/**
 * A file or folder that is written beside its place and then put there by a rename: it is there whole
 * or not at all, whatever happens in between.
 */
export class Output implements ResultWriter {
  private readonly folders = new Set<string>()

  private constructor(
    readonly target: string,
    private readonly temporary: string,
    /** Tells other runs that this one writes to the target; undefined where nobody has to know. */
    private readonly marker: string | undefined,
    private readonly replace: boolean,
    private readonly disk: DiskCalls,
  ) {}

  get location(): string {
    return this.temporary
  }

  /** Writes into a folder that another has prepared, who will put it in its place. */
  static into(folder: string): Output {
    return new Output(folder, folder, undefined, false, DISK)
  }

  /** Prepares to write `target`; refuses where it exists and is not to be replaced. */
  static prepare(target: string, replace: boolean, disk: DiskCalls = DISK): Output {
    if (disk.lstatSync(target, QUIET) !== undefined && !replace) {
      throw existsAlready(target)
    }
    const id = `${process.pid.toString(36)}-${Math.random().toString(36).slice(2, 10)}`
    const [folder, name] = [dirname(target), `.${basename(target)}.anagnosis-`]
    const temporary = join(folder, name + id)
    // a folder that is not there yet is nobody's
    if (disk.lstatSync(folder, QUIET) === undefined)
      return new Output(target, temporary, undefined, replace, disk)
    const output = new Output(target, temporary, temporary + MARK, replace, disk)
    output.claim(name)
    return output
  }

  /** Marks the target as this run's. @throws Failure where another run writes to it */
  private claim(name: string): void {
    const { marker, disk, target } = this
    if (marker === undefined) return
    this.guarded('', () => {
      disk.closeSync(disk.openSync(marker, 'wx'))
      for (const other of disk.readdirSync(dirname(target))) {
        if (!other.startsWith(name) || !other.endsWith(MARK) || other === basename(marker)) continue
        const pid = parseInt(other.slice(name.length), 36)
        if (!isRunning(pid)) continue
        throw new Failure('out/in-use', `another run (process ${pid}) writes to ${target}`, {
          exit: EXIT.refused,
          path: target,
          hint: 'wait until it has ended, or name another --out',
        })
      }
    })
  }

  /**
   * Writes one file of a folder; `path` is relative, with `/`. A single file is on the disk before it
   * takes its place; the files of a folder are left to the system, for flushing each of thousands
   * would take minutes, and all of them can be made again from the inputs.
   */
  file(path: string, bytes: Uint8Array, mode?: number): void {
    this.guarded(path, () => {
      const location = this.locate(path)
      this.makeFolder(dirname(location))
      const { disk } = this
      const handle = disk.openSync(location, 'wx', mode === undefined ? 0o666 : mode | 0o200)
      try {
        for (let at = 0; at < bytes.length;) at += disk.writeSync(handle, bytes, at)
        if (mode !== undefined) disk.fchmodSync(handle, mode)
        if (path === '') disk.fsyncSync(handle)
      } finally {
        disk.closeSync(handle)
      }
    })
  }

  folder(path: string): void {
    this.guarded(path, () => {
      this.makeFolder(this.locate(path))
    })
  }

  link(path: string, to: string): void {
    this.guarded(path, () => {
      this.makeFolder(dirname(this.locate(path)))
      this.disk.symlinkSync(to, this.locate(path))
    })
  }

  /** Puts what was written in its place. */
  commit(): void {
    this.guarded('', () => {
      const there = this.disk.lstatSync(this.target, QUIET)
      if (there !== undefined && !this.replace) throw existsAlready(this.target)
      if (there?.isDirectory() === true) this.exchange()
      else this.disk.renameSync(this.temporary, this.target)
      this.release()
    })
  }

  private release(): void {
    if (this.marker !== undefined) this.disk.rmSync(this.marker, { force: true })
  }

  /** A folder cannot be renamed over another: the old is moved aside first, and comes back where the new cannot take its place. */
  private exchange(): void {
    const aside = `${this.temporary}.old`
    this.disk.renameSync(this.target, aside)
    try {
      this.disk.renameSync(this.temporary, this.target)
    } catch (error) {
      this.disk.renameSync(aside, this.target)
      throw error
    }
    this.disk.rmSync(aside, { recursive: true, force: true })
  }

  /** Removes what was written so far; the target stays as it was. */
  discard(): void {
    try {
      this.disk.rmSync(this.temporary, { recursive: true, force: true })
      this.release()
    } catch {
      // what kept it from being written is told, and that is what matters
    }
  }

  private locate(path: string): string {
    return path === '' ? this.temporary : join(this.temporary, ...path.split('/'))
  }

  private makeFolder(location: string): void {
    if (this.folders.has(location)) return
    this.disk.mkdirSync(location, { recursive: true })
    this.folders.add(location)
  }

  private guarded(path: string, write: () => void): void {
    try {
      write()
    } catch (error) {
      this.discard()
      throw systemFailure(error, 'Writing', path === '' ? this.target : join(this.target, path))
    }
  }
}
