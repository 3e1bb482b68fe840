import * as fs from 'node:fs/promises'
import { basename, dirname, join } from 'node:path'
import { Failure, EXIT, systemFailure } from './failure.ts'

/** What is written through; a test can put one in place whose calls fail. */
export type FileSystem = Pick<
  typeof fs,
  'mkdir' | 'open' | 'rename' | 'rm' | 'symlink' | 'chmod' | 'lstat' | 'readlink'
>

/** Where a result goes. */
export interface ResultWriter {
  /** Writes one file; `path` is relative, with `/`, and empty where the result is a single file. */
  file(path: string, bytes: Uint8Array, mode?: number): Promise<void>
  folder(path: string): Promise<void>
  link(path: string, to: string): Promise<void>
  /** Puts what was written in its place. */
  commit(): Promise<void>
  /** Removes what was written so far. */
  discard(): Promise<void>
}

const nothing = (): Promise<void> => Promise.resolve()

/** Writes nothing: for a forecast. */
export const NO_OUTPUT: ResultWriter = {
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
  private readonly temporary: string
  private readonly folders = new Set<string>()

  private constructor(
    readonly target: string,
    private readonly replace: boolean,
    private readonly disk: FileSystem,
  ) {
    const id = process.pid.toString(36) + Math.random().toString(36).slice(2, 10)
    this.temporary = join(dirname(target), `.${basename(target)}.anagnosis-${id}`)
  }

  /** Prepares to write `target`; refuses where it exists and is not to be replaced. */
  static async prepare(target: string, replace: boolean, disk: FileSystem = fs): Promise<Output> {
    const there = await disk.lstat(target).catch(() => undefined)
    if (there !== undefined && !replace) {
      throw new Failure('out/exists', `${target} exists already`, {
        exit: EXIT.refused,
        path: target,
        hint: 'name another --out, or add --replace',
      })
    }
    return new Output(target, replace, disk)
  }

  /** Writes one file of a folder; `path` is relative, with `/`. */
  async file(path: string, bytes: Uint8Array, mode?: number): Promise<void> {
    await this.guarded(path, async () => {
      const location = this.locate(path)
      await this.makeFolder(dirname(location))
      const handle = await this.disk.open(location, 'wx', mode === undefined ? 0o666 : mode | 0o200)
      try {
        await handle.writeFile(bytes)
        await handle.sync()
      } finally {
        await handle.close()
      }
      if (mode !== undefined) await this.disk.chmod(location, mode)
    })
  }

  async folder(path: string): Promise<void> {
    await this.guarded(path, () => this.makeFolder(this.locate(path)))
  }

  async link(path: string, to: string): Promise<void> {
    await this.guarded(path, async () => {
      await this.makeFolder(dirname(this.locate(path)))
      await this.disk.symlink(to, this.locate(path))
    })
  }

  /** Puts what was written in its place. */
  async commit(): Promise<void> {
    await this.guarded('', async () => {
      const there = await this.disk.lstat(this.target).catch(() => undefined)
      if (there === undefined || !this.replace) {
        if (there !== undefined) throw Object.assign(new Error('exists'), { code: 'EEXIST' })
        await this.disk.rename(this.temporary, this.target)
        return
      }
      if (there.isDirectory()) await this.exchange()
      else await this.disk.rename(this.temporary, this.target)
    })
  }

  /** A folder cannot be renamed over another: the old is moved aside first, and comes back where the new cannot take its place. */
  private async exchange(): Promise<void> {
    const aside = `${this.temporary}.old`
    await this.disk.rename(this.target, aside)
    try {
      await this.disk.rename(this.temporary, this.target)
    } catch (error) {
      await this.disk.rename(aside, this.target)
      throw error
    }
    await this.disk.rm(aside, { recursive: true, force: true })
  }

  /** Removes what was written so far; the target stays as it was. */
  async discard(): Promise<void> {
    await this.disk.rm(this.temporary, { recursive: true, force: true }).catch(() => undefined)
  }

  private locate(path: string): string {
    return path === '' ? this.temporary : join(this.temporary, ...path.split('/'))
  }

  private async makeFolder(location: string): Promise<void> {
    if (this.folders.has(location)) return
    await this.disk.mkdir(location, { recursive: true })
    this.folders.add(location)
  }

  private async guarded(path: string, write: () => Promise<void>): Promise<void> {
    try {
      await write()
    } catch (error) {
      await this.discard()
      throw systemFailure(error, 'Writing', path === '' ? this.target : join(this.target, path))
    }
  }
}
