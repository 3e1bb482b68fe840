import type { Conflict } from '../core/carry/ledger.ts'
import type { FileReport } from '../core/carry/report.ts'
import { keyPattern } from '../core/keys/key.ts'

/** Conflicts that are alike: the same pattern of keys and the same three values. One question. */
export interface Question {
  path: string
  pattern: string
  /** The first of them; the others differ in their key and their place alone. */
  example: Conflict
  conflicts: Conflict[]
}

/** All conflicts as questions, the one over most keys first, then in the order of the files. */
export function questionsOf(files: readonly FileReport[]): Question[] {
  const questions = new Map<string, Question>()
  for (const { path, conflicts } of files) {
    for (const conflict of conflicts) {
      const pattern = keyPattern(conflict.key)
      const { kind, old, new: fresh, mine } = conflict
      const alike = [path, pattern, kind, old, fresh, mine]
        .map((part) => (part === null ? '-' : `${part.length}:${part}`))
        .join()
      const question = questions.get(alike)
      if (question === undefined)
        questions.set(alike, { path, pattern, example: conflict, conflicts: [conflict] })
      else question.conflicts.push(conflict)
    }
  }
  return [...questions.values()].sort((a, b) => b.conflicts.length - a.conflicts.length)
}
