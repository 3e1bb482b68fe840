/** A copy of a live folder as it was. */
export interface Backup {
  /** The name of its folder. */
  name: string
  /** Where it is; a plain folder, which a person can copy back. */
  location: string
  variant: string
  /** The live folder that it was copied from, as the config named it. */
  folder: string
  vanilla: string
  /** ISO time. */
  at: string
  files: number
  bytes: number
  /** Whether the operator said that what was live is what is to be kept. */
  asItIs: boolean
  /** What it was made before: a delivery of a draft, or a restore of a backup. */
  before?: { what: 'deliver' | 'restore'; from: string }
}

export interface BackupMade {
  backup: Backup
  /** Things in the live folder that it does not hold, in a sentence each. */
  notHeld: { path: string; message: string }[]
  /** Edits that kept copies have and it has not, and the backup that has most of them. */
  wiped: WipedEdit[]
  wipedIn: Backup | undefined
}

/** An edit that a backup has and the live folder has not. */
export interface WipedEdit {
  path: string
  key: string
  value: string | null
}
