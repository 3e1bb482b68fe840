import { z } from 'zod'
import type { Release } from '../../core/facts/release.ts'
import { nameOf } from '../../core/facts/release.ts'
import { nearest } from '../../core/keys/nearest.ts'
import { EXIT, Failure } from '../failure.ts'

const natural = z.int().nonnegative()
const hash = z.string().regex(/^[0-9a-f]{64}$/)

/** A release in the store. Its order is that of the list; it is never read out of the label. */
const release = z.strictObject({
  label: z.string().min(1),
  /** Which taking-in of a trial release this is, from 1; null for a release that is final. */
  revision: z.int().positive().nullable(),
  /** ISO time at which it was taken in. */
  added: z.string(),
  sources: z.array(z.string()),
  /** The release that it stands on, where only what an update changed was taken in. */
  onto: z.string().nullable(),
  /** Hash of the list of its files. */
  manifest: hash,
  files: natural,
  bytes: natural,
  /** What of it no release before had. */
  newBytes: natural,
})

export const releaseList = z.strictObject({ schema: z.literal(1), releases: z.array(release) })

const manifestFile = z.strictObject({
  path: z.string(),
  mode: natural,
  /** SHA-256 of the content, and its bytes; of a link where it leads. */
  hash: hash.optional(),
  size: natural.optional(),
  link: z.string().optional(),
})

/** The files of one release, in the order of their paths. */
export const manifest = z.strictObject({ schema: z.literal(1), files: z.array(manifestFile) })

export type ManifestFile = z.infer<typeof manifestFile>
export type Manifest = z.infer<typeof manifest>

/**
 * The release of a name. A label alone means the final release, where there is one, else the last
 * revision of its trial.
 */
export function findRelease(releases: readonly Release[], name: string): Release | undefined {
  return (
    releases.find((each) => nameOf(each) === name) ??
    releases.filter(({ label }) => label === name).at(-1)
  )
}

/** The same. @throws Failure that names those there are */
export function releaseNamed(releases: readonly Release[], name: string): Release {
  const found = findRelease(releases, name)
  if (found !== undefined) return found
  throw unknownRelease(releases, name, `there is no vanilla ${name} in the store`)
}

/** A release that the store has not, with the nearest that it has. */
export function unknownRelease(
  releases: readonly Release[],
  name: string,
  message: string,
): Failure {
  const known = releases.map(nameOf)
  const near = nearest(name, byNumbers(known, name))
  const meant = near === undefined ? '' : `did you mean ${near}? `
  return new Failure('vanilla/unknown', message, {
    exit: EXIT.wrongCall,
    hint:
      known.length === 0
        ? `the store is empty: anagnosis vanilla add ${name} SOURCE takes it in`
        : `${meant}the store holds ${known.join(', ')}; anagnosis vanilla add ${name} SOURCE takes it in`,
  })
}

/** Labels, those first whose numbers are nearest: of two that differ by one letter the later is meant rather. */
function byNumbers(labels: readonly string[], name: string): string[] {
  const numbers = (label: string): number[] => (label.match(/\d+/g) ?? []).map(Number)
  const wanted = numbers(name)
  const apart = (label: string): [alike: number, by: number] => {
    const all = numbers(label)
    const at = wanted.findIndex((number, i) => number !== all[i])
    return at < 0 ? [wanted.length, 0] : [at, Math.abs((wanted[at] ?? 0) - (all[at] ?? 0))]
  }
  return [...labels].sort((a, b) => {
    const [[alike, by], [otherAlike, otherBy]] = [apart(a), apart(b)]
    return otherAlike - alike || by - otherBy
  })
}

/** What stands for a vanilla that nobody has. */
export const NO_VANILLA = 'none'

/** Words that calls and the config have in the place of a label. */
const TAKEN: readonly string[] = [NO_VANILLA, 'guess']

/** Refuses what cannot be the label of a release. */
export function checkLabel(label: string): void {
  const why =
    label.trim() !== label || label === ''
      ? 'is empty, or begins or ends with a blank'
      : /[\u0000-\u001f\u007f]/.test(label)
        ? 'has a control character in it'
        : /\+[0-9]+$/.test(label)
          ? 'ends in + and a number: the store numbers the revisions of a trial release itself'
          : label.startsWith('-')
            ? 'begins with -'
            : TAKEN.includes(label)
              ? 'has a meaning of its own where a label can stand'
              : undefined
  if (why === undefined) return
  throw new Failure(
    'vanilla/label',
    `${JSON.stringify(label)} cannot be the label of a release: it ${why}`,
    {
      exit: EXIT.wrongCall,
      hint: 'take the label that the game shows, such as 4.2',
    },
  )
}
