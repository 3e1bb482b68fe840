import type { Backup, WipedEdit } from './backup.ts'

/** Where one variant stands. */
export interface VariantOverview {
  name: string
  folder: string
  /** Whether the live folder is there. */
  isThere: boolean
  /** The label of the vanilla that it was made from, and when that was taken in (ISO); null where the store has it not. */
  vanilla: string
  vanillaAdded: string | null
  /** Releases that come after it in the store, in their order. */
  newer: string[]
  /** Newest first. */
  backups: Backup[]
  /** Edits that the last backup has and the live folder has not. */
  wiped: WipedEdit[]
}

export interface Overview {
  game: string | undefined
  /** What the installed game says of its version; undefined where it is not asked or does not say. */
  installed: { version: string | undefined; at: string } | undefined
  /** Whether the store has the installed version. */
  isInstalledKnown: boolean
  releases: string[]
  variants: VariantOverview[]
}
