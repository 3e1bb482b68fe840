import type { ChangeKind } from '../plan/telling.ts'

/** A key in which one document differs from another. */
export interface KeyChange {
  kind: ChangeKind
  key: string
  was?: string | undefined
  old: string | null
  new: string | null
}

/** The same, and in which file. */
export interface FileKeyChange extends KeyChange {
  path: string
}
