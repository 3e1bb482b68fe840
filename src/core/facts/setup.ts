import type { BackupMade } from './backup.ts'
import type { TakenRelease } from './release.ts'

/** A policy for files that a live folder holds, with the reason, and how many they are. */
export interface Policy {
  match: string
  take: 'vanilla' | 'mine' | 'merge' | 'leave-out'
  reason: string
  files: number
}

/** What a setup did, and what becomes of the files of the live folder. */
export interface SetupDone {
  variant: { name: string; folder: string; vanilla: string; sparse?: boolean | undefined }
  /** What was done with `anagnosis.yaml`. */
  config: 'written' | 'added-to' | 'as-it-was'
  policies: Policy[]
  taken: TakenRelease | undefined
  /** Undefined where the variant had one already. */
  backup: BackupMade | undefined
  hasVanilla: boolean
  /** How many of the files of vanilla the folder holds, where these are so few that it may hold customised files alone. */
  fewOf: { files: number; of: number } | undefined
  care: Care
}

/** What becomes of the files of a live folder in a carry. */
export interface Care {
  byKey: number
  /** Texts without keys and other files: merged by lines, or taken whole. */
  others: number
  vanilla: number
  mine: number
  leftOut: number
  /** Links and what is no file. */
  notFiles: string[]
}
