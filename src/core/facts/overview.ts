import type { Backup, WipedEdit } from './backup.ts'

/** Where a draft stands. */
export interface DraftFacts {
  name: string
  /** The release that it was carried to. */
  to: string
  /** ISO time. */
  at: string
  /** Keys that are open. */
  open: number
  /** Groups of changes that nobody looked at. */
  notLookedAt: number
  state: 'open' | 'delivered' | 'parcelled'
}

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
  /** Edits that the kept copies have and the live folder has not, and the backup that has most of them. */
  wiped: WipedEdit[]
  wipedIn: string | undefined
  /** What the game beside this variant says of its version, where the config says where. */
  installed: { version: string | undefined; at: string } | undefined
  /** Of a download of a host: when its newest file was written (ISO); null where it holds none. */
  newestFile: string | null | undefined
  /** What was put live last; undefined where nothing was. */
  lastDelivery: { at: string; draft: string; vanilla: string } | undefined
  /** The newest first. */
  drafts: DraftFacts[]
  /** Whether a release has come out since that of the open draft. */
  isDraftBehind: boolean
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
