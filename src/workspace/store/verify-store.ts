import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { pipeline } from 'node:stream/promises'
import type { Release, VerifiedStore } from '../../core/facts/release.ts'
import { nameOf } from '../../core/facts/release.ts'
import type { ManifestFile } from './release.ts'
import type { Store } from './store.ts'
import { sealed } from './store.ts'

/** Hashes all content anew, each once, and names the files of all releases that are not as they were. */
export async function verifyStore(
  store: Store,
  releases: readonly Release[],
  { progress, signal }: { progress?: (done: number) => void; signal?: AbortSignal } = {},
): Promise<VerifiedStore> {
  const known = new Map<string, 'right' | 'missing' | 'altered'>()
  const result: VerifiedStore = { findings: [], releases: releases.length, files: 0, bytes: 0 }
  for (const release of releases) {
    const files = await filesOf(store, release)
    if (files === undefined) {
      result.findings.push({ release: nameOf(release), path: '', what: 'altered' })
      continue
    }
    for (const { path, hash, size = 0 } of files) {
      signal?.throwIfAborted()
      if (hash === undefined) continue
      const state = known.get(hash) ?? (await stateOf(store.layout.object(hash), hash))
      known.set(hash, state)
      if (state !== 'right') result.findings.push({ release: nameOf(release), path, what: state })
      result.files++
      result.bytes += size
      progress?.(result.files)
    }
  }
  return result
}

/** The list of a release's files; undefined where it is gone or not the one that was sealed. */
async function filesOf(store: Store, release: Release): Promise<ManifestFile[] | undefined> {
  const files = await store.files(release).catch(() => undefined)
  return files !== undefined && sealed(files).hash === release.manifest ? files : undefined
}

async function stateOf(path: string, hash: string): Promise<'right' | 'missing' | 'altered'> {
  const sum = createHash('sha256')
  try {
    await pipeline(createReadStream(path), sum)
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return 'missing' // what a stream of a file throws has a code
    throw error
  }
  return sum.digest('hex') === hash ? 'right' : 'altered'
}
