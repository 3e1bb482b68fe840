import type { Habit } from '../grouping/habits.ts'
import type { Question } from '../grouping/questions.ts'
import type { ClosedKey, Sheet } from './settled.ts'

/** Alike changes of vanilla, as they are looked at. */
export interface ScreenGroup {
  path: string
  pattern: string
  kind: string
  count: number
  /** A hash of the rows: the name of the group as long as they are the same. */
  rows: string
  isLookedAt: boolean
}

/** One change of a group. */
export interface GroupRow {
  path: string
  key: string
  old: string | null
  new: string | null
  mine: string | null
  result: string | null
}

/** A line of an input. */
export interface SourceLine {
  line: number
  text: string
}

/** What belongs to one question: the entry, and the lines in which the key stands. */
export interface QuestionDetail {
  sheet: Sheet | undefined
  lines: { new: SourceLine | undefined; mine: SourceLine | undefined }
}

/** Where a draft stands, for the screen on which it is settled. */
export interface ScreenData {
  variant: string
  from: string
  to: string
  questions: Question[]
  habits: readonly Habit[]
  groups: ScreenGroup[]
  /** All that was decided in the draft. */
  closed: ClosedKey[]
  /** What cannot be taken over of what was edited by hand. */
  problems: readonly { path: string; message: string }[]
}

/** Where somebody was, so that the next start goes on there. */
export interface ScreenPosition {
  /** The id of the conflict at hand; for a group its rows. */
  at: string
  isInGroups: boolean
  /** The ids of questions that were put aside. */
  aside: string[]
}

/** One key, and what is taken for it, as `--take` has it. */
export interface ScreenAnswer {
  path: string
  key: string
  take: string
}

/** What the screen asks of the draft. Each call saves what it changes before it is done. @throws Error with words for people */
export interface ScreenPort {
  load: () => Promise<ScreenData>
  detail: (question: Question) => Promise<QuestionDetail>
  rows: (group: ScreenGroup) => Promise<GroupRow[]>
  /** Gives the keys that were closed by it. */
  answer: (answers: readonly ScreenAnswer[]) => Promise<{ data: ScreenData; closed: ClosedKey[] }>
  /** Takes the last answer back; gives how many keys that were; 0 where there is none. */
  undo: () => Promise<{ data: ScreenData; keys: number }>
  look: (rows: readonly string[]) => Promise<ScreenData>
  position: () => Promise<ScreenPosition | undefined>
  remember: (position: ScreenPosition) => Promise<void>
}
