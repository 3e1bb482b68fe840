/** A release of the game's untouched files, as it was taken into the store. */
export interface Release {
  label: string
  /** Which taking-in of a trial release this is, from 1; null for a release that is final. */
  revision: number | null
  /** ISO time at which it was taken in. */
  added: string
  sources: string[]
  /** The release that it stands on, where only what an update changed was taken in. */
  onto: string | null
  /** Hash of the list of its files. */
  manifest: string
  files: number
  bytes: number
  /** What of it no release before had. */
  newBytes: number
}

/** The name by which calls and reports know a release: `4.2`, of a trial `4.2+1`. */
export function nameOf({ label, revision }: Pick<Release, 'label' | 'revision'>): string {
  return revision === null ? label : `${label}+${revision}`
}

/** A thing in a source that is not taken, or that may make trouble, in one sentence. */
export interface SourceRemark {
  path: string
  code: string
  message: string
}

/** What was taken into the store, and what is to be said of it. */
export interface TakenRelease {
  release: Release
  name: string
  /** The revision that it is the same as: then nothing was added. */
  sameAs: Release | undefined
  remarks: SourceRemark[]
  /** The release before it in the order, if any. */
  before: string | undefined
  /** What its own files say of its version, where that is another. */
  says: string | undefined
  /** The one folder that all its files stand in, where no release before has it: it is likely no part of the game. */
  wrapped: string | undefined
}

export interface ListedRelease extends Release {
  name: string
  /** The variants that were made from it. */
  variants: string[]
}

export interface ListedReleases {
  releases: ListedRelease[]
  /** Bytes of all content, each once. */
  bytes: number
  /** Variants made from a release that the store has not. */
  missing: { variant: string; vanilla: string }[]
}

/** A file of a release that is not as it was taken in; the release's own list where the path is empty. */
export interface StoreFinding {
  release: string
  path: string
  what: 'missing' | 'altered'
}

export interface VerifiedStore {
  findings: StoreFinding[]
  releases: number
  files: number
  bytes: number
}
