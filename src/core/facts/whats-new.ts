import type { Change, Conflict } from '../report/ledger.ts'
import type { FileReport, LocatedProblem } from '../report/report.ts'
import type { FormatName } from '../formats/format.ts'
import type { CommentChange } from '../grouping/comment-changes.ts'
import type { Group } from '../grouping/group.ts'

/** What one release has otherwise than another. */
export interface WhatsNew {
  groups: Group[]
  comments: (CommentChange & { path: string })[]
  /** The formats of files that were compared by key. */
  formats: Map<string, FormatName>
  /** Files that differ, and all there are. */
  files: { changed: number; all: number }
  /** Keys that differ, by what became of them. */
  counts: { changed: number; added: number; removed: number; moved: number; renamed: number }
  /** Files that could not be read, and what else is to be known. */
  problems: LocatedProblem[]
}

/** What an update does to the edits of a variant. */
export interface VariantTouch {
  variant: string
  /** The vanilla that it was made from: its edits are those against that. */
  vanilla: string
  /** Files of the variant that both changed by keys that clash. */
  files: FileReport[]
  conflicts: (Conflict & { path: string })[]
  /** Changes of vanilla to entries in which the variant has edits that stand beside them. */
  near: (Change & { path: string })[]
  /** Edits that a policy of `take: vanilla` drops. */
  wiped: (Change & { path: string })[]
  /** Edits that are carried without a question, and changes of vanilla in the same files. */
  counts: { edits: number; merging: number; both: number }
  /** Paths of files that could not be read. */
  unread: string[]
}
