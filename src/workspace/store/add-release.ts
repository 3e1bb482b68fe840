import { pathPattern } from '../config/path-pattern.ts'
import { EXIT, Failure, systemFailure } from '../failure.ts'
import { openSource } from '../source/open-source.ts'
import type { Release, SourceRemark } from '../../core/facts/release.ts'
import { withLock } from '../io/lock.ts'
import { writeState } from '../state/state-file.ts'
import { Intake } from './intake.ts'
import type { ManifestFile } from './release.ts'
import { nameOf } from '../../core/facts/release.ts'
import { checkLabel, findRelease, releaseNamed } from './release.ts'
import type { Store } from './store.ts'
import { sealed } from './store.ts'

export interface AddRequest {
  label: string
  /** Folders, archives and `PATH@REVISION`; together they are one release. */
  sources: readonly string[]
  /** The release whose files stand where the sources have none. */
  onto?: string | undefined
  trial: boolean
  subfolder?: string | undefined
  only: readonly string[]
  /** Of a folder that is a source: which paths in it are passed over, such as the state itself. */
  isLeftOut?: (folder: string) => (path: string) => boolean
  now: Date
  progress?: ((files: number) => void) | undefined
  signal?: AbortSignal | undefined
}

export interface Added {
  release: Release
  /** The revision that it is the same as: then nothing was added. */
  sameAs: Release | undefined
  remarks: SourceRemark[]
  files: ManifestFile[]
}

/** Takes a release into the store, whole or not at all. */
export async function addRelease(store: Store, request: AddRequest): Promise<Added> {
  checkLabel(request.label)
  return withLock(
    store.layout.root,
    async () => {
      await store.sweep()
      const releases = await store.releases()
      refuseKnown(releases, request)
      const onto = request.onto === undefined ? undefined : releaseNamed(releases, request.onto)
      const intake = new Intake(
        store.layout,
        {
          subfolder: request.subfolder?.replaceAll('\\', '/').replace(/^(\.\/)+|\/+$/g, ''),
          isTaken: request.only.length === 0 ? () => true : pathPattern(request.only),
          signal: request.signal,
          progress: request.progress,
        },
        store.disk,
      )
      try {
        for (const named of request.sources)
          await intake.take(await openSource(named, request.isLeftOut?.(named)))
        if (intake.files.size === 0) throw nothingTaken(request)
        tellCaseClashes(intake)
        const before = onto === undefined ? [] : await store.files(onto)
        const files = [
          ...new Map([
            ...before.map((file) => [file.path, file] as const),
            ...intake.files,
          ]).values(),
        ]
        return await commit(store, { request, releases, onto, intake, files })
      } catch (error) {
        await intake.discard()
        throw error
      }
    },
    store.disk,
  )
}

function refuseKnown(releases: readonly Release[], { label, trial }: AddRequest): void {
  const known = findRelease(releases, label)
  if (known === undefined || known.revision !== null) return
  throw new Failure(
    'vanilla/exists',
    `vanilla ${label} is in the store already, as a final release`,
    {
      exit: EXIT.refused,
      hint: trial
        ? 'a final release has no trial after it; give the trial a label of its own'
        : `anagnosis vanilla verify says whether it is as it was; anagnosis vanilla remove ${label} takes it out`,
    },
  )
}

interface Taken {
  request: AddRequest
  releases: readonly Release[]
  onto: Release | undefined
  intake: Intake
  files: readonly ManifestFile[]
}

async function commit(store: Store, taken: Taken): Promise<Added> {
  const { request, releases, onto, intake } = taken
  const { content, hash } = sealed(taken.files)
  const trials = releases.filter(
    ({ label, revision }) => label === request.label && revision !== null,
  )
  const last = trials.at(-1)
  const { remarks } = intake
  if (request.trial && last?.manifest === hash) {
    await intake.discard()
    return { release: last, sameAs: last, remarks, files: content.files }
  }
  const release: Release = {
    label: request.label,
    revision: request.trial ? (last?.revision ?? 0) + 1 : null,
    added: request.now.toISOString(),
    sources: [...request.sources],
    onto: onto === undefined ? null : nameOf(onto),
    manifest: hash,
    files: content.files.length,
    bytes: content.files.reduce((sum, { size = 0 }) => sum + size, 0),
    newBytes: intake.newBytes,
  }
  request.signal?.throwIfAborted()
  try {
    await intake.settle()
    await store.disk.makeFolder(store.layout.manifests)
  } catch (error) {
    throw systemFailure(error, 'Writing into the store', store.layout.vanilla)
  }
  await writeState(store.layout.manifest(hash), content, store.disk)
  await store.writeReleases([...releases, release])
  return { release, sameAs: undefined, remarks, files: content.files }
}

function nothingTaken({ sources, subfolder, only }: AddRequest): Failure {
  const filters = [
    ...(subfolder === undefined ? [] : [`--subfolder ${subfolder}`]),
    ...only.map((pattern) => `--only ${pattern}`),
  ]
  const hold = sources.length === 1 ? 'holds' : 'hold'
  const what =
    filters.length === 0 ? 'no files' : `no file that ${filters.join(' and ')} would take`
  return new Failure('vanilla/empty', `${sources.join(' and ')} ${hold} ${what}`, {
    exit: EXIT.wrongCall,
    hint: 'nothing was added to the store',
  })
}

/** Names that differ by capitals alone are one file on the disks of most. */
function tellCaseClashes(intake: Intake): void {
  const spelled = new Map<string, string>()
  for (const path of intake.files.keys()) {
    const other = spelled.get(path.toLowerCase())
    if (other !== undefined) {
      const message = `differs from ${other} by capitals alone: on Windows only one of them can be there`
      intake.remarks.push({ path, code: 'source/other-capitals', message })
    }
    spelled.set(path.toLowerCase(), path)
  }
}
