import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { readdir } from 'node:fs/promises'
import { join } from 'node:path'
import { EXIT, Failure, systemFailure } from '../failure.ts'
import type { Disk } from '../io/disk.ts'
import { DISK } from '../io/disk.ts'
import type { StateLayout } from '../state/layout.ts'
import { readState, writeState } from '../state/state-file.ts'
import type { Release } from '../../core/facts/release.ts'
import type { Manifest, ManifestFile } from './release.ts'
import { nameOf } from '../../core/facts/release.ts'
import { manifest, releaseList } from './release.ts'

/** The releases that were taken in, and their files by content. */
export class Store {
  constructor(
    readonly layout: StateLayout,
    readonly disk: Disk = DISK,
  ) {}

  /** All releases, in their order. */
  async releases(): Promise<Release[]> {
    return (await readState(this.layout.releases, releaseList))?.releases ?? []
  }

  async writeReleases(releases: readonly Release[]): Promise<void> {
    await writeState(this.layout.releases, { schema: 1, releases }, this.disk)
  }

  /** The files of a release, in the order of their paths. @throws Failure where its list is gone */
  async files(release: Release): Promise<ManifestFile[]> {
    const path = this.layout.manifest(release.manifest)
    const read = await readState(path, manifest)
    if (read !== undefined) return read.files
    throw new Failure(
      'vanilla/no-list',
      `the list of files of vanilla ${nameOf(release)} is gone: ${path}`,
      {
        exit: EXIT.unread,
        path,
        hint: `anagnosis vanilla remove ${nameOf(release)}, and take it in again`,
      },
    )
  }

  /** The content of releases, each once, with its bytes; of one whose list is damaged nothing. */
  async contentOf(releases: readonly Release[]): Promise<Map<string, number>> {
    const sizes = new Map<string, number>()
    for (const release of releases) {
      const files = await this.files(release).catch(() => [])
      for (const { hash, size = 0 } of files) if (hash !== undefined) sizes.set(hash, size)
    }
    return sizes
  }

  /** The content of a file of a release; undefined for a link. */
  content({ hash }: ManifestFile): Buffer | undefined {
    if (hash === undefined) return undefined
    try {
      return readFileSync(this.layout.object(hash))
    } catch (error) {
      throw systemFailure(error, 'Reading from the store', this.layout.object(hash))
    }
  }

  /**
   * Removes what no release has: content that a run which was killed had taken in, and that of removed
   * releases. To be called under the lock.
   */
  async sweep(): Promise<void> {
    const { layout, disk } = this
    for (const name of await names(layout.vanilla))
      if (name.startsWith('incoming-')) await disk.remove(join(layout.vanilla, name))
    const releases = await this.releases()
    const manifests = new Set(releases.map((each) => `${each.manifest}.json`))
    for (const name of await names(layout.manifests))
      if (!manifests.has(name)) await disk.remove(join(layout.manifests, name))
    const used = new Set<string>()
    for (const release of releases) {
      const files = await this.files(release).catch(() => undefined)
      if (files === undefined) return // what it had is not known: nothing is removed until it is mended
      for (const { hash } of files) if (hash !== undefined) used.add(hash)
    }
    for (const start of await names(layout.objects)) {
      for (const rest of await names(join(layout.objects, start)))
        if (!used.has(start + rest)) await disk.remove(join(layout.objects, start, rest))
    }
  }
}

async function names(folder: string): Promise<string[]> {
  try {
    return await readdir(folder)
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return [] // what readdir throws has a code
    throw systemFailure(error, 'Reading the folder', folder)
  }
}

/** A list of files as it is stored, and the hash that names it. */
export function sealed(files: readonly ManifestFile[]): { content: Manifest; hash: string } {
  const content: Manifest = {
    schema: 1,
    files: [...files].sort((a, b) => (a.path < b.path ? -1 : 1)),
  }
  return { content, hash: createHash('sha256').update(JSON.stringify(content)).digest('hex') }
}
