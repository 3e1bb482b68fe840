import { createHash } from 'node:crypto'
import { access } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import type { Readable } from 'node:stream'
import { EXIT, Failure, systemFailure } from '../failure.ts'
import type { Disk, OpenFile } from '../io/disk.ts'
import { linkStaysInside, unholdable } from '../source/safe-path.ts'
import type { SourceRemark } from '../../core/facts/release.ts'
import type { Source, SourceEntry } from '../source/source.ts'
import type { StateLayout } from '../state/layout.ts'
import type { ManifestFile } from './release.ts'

/** Bounds of what one source may hold. */
const MOST_FILES = 500_000
const MOST_BYTES = 256 * 2 ** 30
/** What is packed may come out as so many times its size, and this much more: game data packs at 5 to 30. */
const MOST_UNPACKED = 200
const UNPACKED_FREE = 64 * 2 ** 20
/** Content of so many bytes is held until it is known whether the store has it. */
const MOST_IN_MEMORY = 2 ** 20

export interface IntakeOptions {
  /** Only what stands in this folder of a source is taken, by its path from there. */
  subfolder: string | undefined
  /** Whether a path, from the subfolder, is taken. */
  isTaken: (path: string) => boolean
  signal: AbortSignal | undefined
  /** Told after each file. */
  progress: ((files: number) => void) | undefined
}

/**
 * Takes the files of sources in beside the store, each content once. Nothing of it is part of the store
 * until `settle`; `discard` leaves no trace.
 */
export class Intake {
  readonly files = new Map<string, ManifestFile>()
  readonly remarks: SourceRemark[] = []
  /** Bytes of content that the store has not. */
  newBytes = 0
  private readonly folder: string
  /** Content that was taken in and waits to be settled. */
  private readonly fresh = new Set<string>()
  private counter = 0

  constructor(
    private readonly layout: StateLayout,
    private readonly options: IntakeOptions,
    private readonly disk: Disk,
  ) {
    this.folder = layout.incoming(`${process.pid}-${Date.now().toString(36)}`)
  }

  /** Takes a source in; of two sources with the same path the later one's file stands. */
  async take(source: Source): Promise<void> {
    await this.disk.makeFolder(this.folder).catch((error: unknown) => {
      throw systemFailure(error, 'Making the folder', this.folder)
    })
    const bounds = new Bounds(source)
    const seen = new Set<string>()
    await source.read(
      async (entry) => {
        this.options.signal?.throwIfAborted()
        const path = this.pathOf(entry.path)
        if (path === undefined) return
        if (seen.has(path))
          this.remark(path, 'source/twice', 'stands twice in the source; the later one is taken')
        seen.add(path)
        bounds.file()
        await this.entry(path, entry, source, bounds)
        this.options.progress?.(this.files.size)
      },
      (remark) => this.remarks.push(remark),
    )
  }

  /** Puts the content in its place. What is there already stays. */
  async settle(): Promise<void> {
    for (const hash of this.fresh) {
      const place = this.layout.object(hash)
      await this.disk.makeFolder(dirname(place))
      await this.disk.rename(join(this.folder, hash), place)
    }
    await this.discard()
  }

  async discard(): Promise<void> {
    await this.disk.remove(this.folder).catch(() => undefined) // swept by the next run
  }

  private remark(path: string, code: string, message: string): void {
    this.remarks.push({ path, code, message })
  }

  private pathOf(path: string): string | undefined {
    const { subfolder, isTaken } = this.options
    const inside = subfolder === undefined ? path : path.slice(subfolder.length + 1)
    const folder = subfolder === undefined ? '' : `${subfolder}/`
    if (path.slice(0, folder.length).toLowerCase() !== folder.toLowerCase()) return undefined
    return isTaken(inside) ? inside : undefined
  }

  private async entry(
    path: string,
    entry: SourceEntry,
    source: Source,
    bounds: Bounds,
  ): Promise<void> {
    const { content } = entry
    // of the permissions a release has only whether a file can be run: all else is whoever packed it
    const mode = (entry.mode & 0o100) === 0 ? 0o644 : 0o755
    const trouble = unholdable(path)
    if (trouble !== undefined) this.remark(path, 'source/name', trouble)
    if (content.kind === 'link') {
      if (linkStaysInside(path, content.to)) this.files.set(path, { path, mode, link: content.to })
      else
        this.remark(
          path,
          'source/link',
          `is a link out of the folder, to ${content.to}; it is not taken`,
        )
      return
    }
    try {
      const taken = await this.content(content.open, bounds)
      this.files.set(path, { path, mode, ...taken })
    } catch (error) {
      throw systemFailure(error, `Taking ${path} in from`, source.name)
    }
  }

  /** Takes content in: what is small is written only where it is new, and what is big as it comes. */
  private async content(
    open: () => Promise<Readable> | Readable,
    bounds: Bounds,
  ): Promise<{ hash: string; size: number }> {
    const sum = createHash('sha256')
    const small: Buffer[] = []
    let size = 0
    let big: OpenFile | undefined
    const part = join(this.folder, `part-${this.counter++}`)
    try {
      for await (const chunk of await open()) {
        this.options.signal?.throwIfAborted()
        const bytes = chunk as Buffer // no encoding was set
        sum.update(bytes)
        size += bytes.length
        bounds.bytes(bytes.length)
        if (big === undefined && size > MOST_IN_MEMORY) {
          big = await this.disk.openNew(part)
          for (const each of small.splice(0)) await big.write(each)
        }
        if (big === undefined) small.push(bytes)
        else await big.write(bytes)
      }
    } finally {
      await big?.close()
    }
    const hash = sum.digest('hex')
    if (!this.fresh.has(hash) && !(await isThere(this.layout.object(hash)))) {
      const place = join(this.folder, hash)
      if (big === undefined) await this.disk.write(place, Buffer.concat(small))
      else await this.disk.rename(part, place)
      this.fresh.add(hash)
      this.newBytes += size
    }
    return { hash, size }
  }
}

/** What one source may come to. */
class Bounds {
  private files = 0
  private total = 0
  private readonly most: number

  constructor(private readonly source: Source) {
    const { packedBytes } = source
    this.most =
      packedBytes === undefined
        ? MOST_BYTES
        : Math.min(MOST_BYTES, packedBytes * MOST_UNPACKED + UNPACKED_FREE)
  }

  file(): void {
    if (++this.files > MOST_FILES)
      throw this.failure(`holds more than ${MOST_FILES.toLocaleString('en')} files`)
  }

  bytes(count: number): void {
    this.total += count
    if (this.total <= this.most) return
    const limit = `${Math.round(this.most / 2 ** 20).toLocaleString('en')} MB`
    throw this.failure(
      this.source.packedBytes === undefined
        ? `holds more than ${limit}`
        : `unpacks to more than ${limit}, ${MOST_UNPACKED} times what it is packed`,
    )
  }

  private failure(why: string): Failure {
    return new Failure('source/too-big', `${this.source.name} ${why}; nothing of it was taken in`, {
      exit: EXIT.refused,
      hint: 'take in only what you need with --only PATTERN or --subfolder, or unpack it and name the folder',
    })
  }
}

async function isThere(path: string): Promise<boolean> {
  return access(path).then(
    () => true,
    () => false,
  )
}
