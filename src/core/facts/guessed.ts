/** What one file of a folder was made from. */
export interface GuessedFile {
  path: string
  /** Names of the releases that it shares most with; empty where it is unknown or the folder's own. */
  releases: string[]
  /** The share of its keys and values that are equal to that release's, from 0 to 1. */
  share: number
  /** Whether it is that release's, byte for byte. */
  isClean: boolean
  /** In how many keys it differs from that release; null where it has none, or could not be read. */
  differs: number | null
  /** Whether no release has a file of this path. */
  isOwn: boolean
}

export interface Guessed {
  files: GuessedFile[]
  /** The release that most files were made from; undefined where none was. */
  release: string | undefined
  /** Releases other than that one which some files fit better, and those files. */
  others: { release: string; files: string[] }[]
  /** Whether all files are one release's, byte for byte, and none of that release is missing. */
  isClean: boolean
  /** All releases that the folder equals, that one first. */
  equals: string[]
  /** Files of that release that the folder lacks. */
  missing: string[]
}
