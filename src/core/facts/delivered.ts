/** What became, or would become, of one live file. */
export interface DeliveredFile {
  path: string
  did: 'written' | 'added' | 'removed'
}

/** Why a draft is not put live. */
export interface Refusal {
  code: string
  message: string
  path: string | null
}

/** A draft that was put live, or why it was not. */
export interface Delivered {
  variant: string
  draft: string
  dryRun: boolean
  /** Kinds of checks whose findings did not stop it. */
  despite: string[]
  /** The name of the backup; null where none was made. */
  backup: string | null
  vanilla: { was: string; now: string }
  files: DeliveredFile[]
  /** Files of the draft that are live already. */
  same: number
  refusals: Refusal[]
  /** Groups of changes that nobody looked at. */
  notLookedAt: number
  reminders: string[]
  /** Where the parcel is, where one was made. */
  parcel?: { location: string; upload: number; delete: number } | undefined
  /** What went wrong with a parcel on its way to the host. */
  findings?: { path: string; check: string; message: string }[] | undefined
  /** Notes that are to be said. */
  notes?: readonly { code: string; message: string }[] | undefined
  /** Files that could not be read, and were left alone. */
  leftAlone: { path: string; message: string }[]
}

/** A backup that was put back. */
export interface Restored {
  variant: string
  backup: string
  /** The backup of what was live before. */
  before: string
  vanilla: { was: string; now: string }
  files: { path: string; did: 'put-back' | 'removed' | 'appeared' }[]
}
