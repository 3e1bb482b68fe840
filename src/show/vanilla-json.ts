import type { ListedReleases, Release, TakenRelease, VerifiedStore } from '../core/facts/release.ts'
import { nameOf } from '../core/facts/release.ts'
import { problemOf } from './command-problem.ts'
import type {
  AddedDocument,
  ListedDocument,
  RemovedDocument,
  VerifiedDocument,
} from './vanilla-document.ts'

export function addedJson(taken: TakenRelease, next: readonly string[]): AddedDocument {
  const remarks = taken.remarks.map((each) =>
    problemOf('warning', each.code, each.message, each.path),
  )
  const mismatch =
    taken.says === undefined
      ? []
      : [
          problemOf(
            'warning',
            'vanilla/says-other',
            saysOther(taken.says, taken.release.label),
            null,
          ),
        ]
  return {
    command: 'vanilla add',
    schema: 1,
    release: releaseOf(taken.release),
    sameAs: taken.sameAs === undefined ? null : nameOf(taken.sameAs),
    says: taken.says ?? null,
    problems: [...mismatch, ...remarks],
    next: [...next],
  }
}

/** What is said of a release whose files name another version. */
export function saysOther(says: string, label: string): string {
  return `the game's own files say that they are ${says}, and the label is ${label}`
}

export function listedJson(
  { releases, bytes, missing }: ListedReleases,
  next: readonly string[],
  command: ListedDocument['command'] = 'vanilla list',
): ListedDocument {
  return {
    command,
    schema: 1,
    bytes,
    releases: releases.map((each) => ({ ...releaseOf(each), variants: each.variants })),
    problems: missing.map(({ variant, vanilla }) =>
      problemOf(
        'warning',
        'vanilla/not-in-store',
        `${variant} was made from ${vanilla}, which is not in the store`,
        null,
      ),
    ),
    next: [...next],
  }
}

export function verifiedJson(verified: VerifiedStore, next: readonly string[]): VerifiedDocument {
  const { findings, ...counts } = verified
  return {
    command: 'vanilla verify',
    schema: 1,
    counts: { ...counts, findings: findings.length },
    findings,
    problems: [],
    next: [...next],
  }
}

export function removedJson(
  { release, freedBytes }: { release: Release; freedBytes: number },
  next: readonly string[],
): RemovedDocument {
  return {
    command: 'vanilla remove',
    schema: 1,
    release: nameOf(release),
    freedBytes,
    problems: [],
    next: [...next],
  }
}

function releaseOf(release: Release): AddedDocument['release'] {
  const { label, revision, added, sources, onto, files, bytes, newBytes } = release
  return { name: nameOf(release), label, revision, added, sources, onto, files, bytes, newBytes }
}
