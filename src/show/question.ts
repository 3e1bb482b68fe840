import type { Conflict } from '../core/report/ledger.ts'
import type { FileReport } from '../core/report/report.ts'
import { keyPattern } from '../core/keys/key.ts'

/** Conflicts that are alike: the same pattern of keys and the same three values. One question. */
export interface Question {
  path: string
  pattern: string
  /** The first of them; the others differ in their key and their place alone. */
  example: Conflict
  conflicts: Conflict[]
  /** Where several keys of an entry are decided as one: the others of the example's entry. */
  tied: Conflict[]
}

/** All conflicts as questions, the one over most keys first, then in the order of the files. */
export function questionsOf(files: readonly FileReport[]): Question[] {
  const questions = new Map<string, Question>()
  for (const { path, conflicts } of files) {
    for (const [example, ...tied] of inOneQuestion(conflicts)) {
      const alike = [path, ...[example, ...tied].flatMap(formOf)]
        .map((part) => (part === null ? '-' : `${part.length}:${part}`))
        .join()
      const question = questions.get(alike)
      if (question !== undefined) question.conflicts.push(example, ...tied)
      else {
        const pattern = keyPattern(example.key)
        questions.set(alike, { path, pattern, example, conflicts: [example, ...tied], tied })
      }
    }
  }
  return [...questions.values()].sort((a, b) => b.conflicts.length - a.conflicts.length)
}

/** What alike conflicts have in common. */
function formOf({ key, kind, old, new: fresh, mine }: Conflict): (string | null)[] {
  return [keyPattern(key), kind, old, fresh, mine]
}

/** Conflicts that are decided as one, together; all others by themselves. */
function inOneQuestion(conflicts: readonly Conflict[]): [Conflict, ...Conflict[]][] {
  const all: [Conflict, ...Conflict[]][] = []
  const known = new Map<readonly string[], [Conflict, ...Conflict[]]>()
  for (const conflict of conflicts) {
    const others = conflict.together && known.get(conflict.together)
    if (others !== undefined) others.push(conflict)
    else {
      all.push([conflict])
      if (conflict.together !== undefined) known.set(conflict.together, all.at(-1) ?? [conflict])
    }
  }
  return all
}
