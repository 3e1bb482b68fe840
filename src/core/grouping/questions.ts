import type { Outcome } from '../report/file-fate.ts'
import type { Conflict } from '../report/ledger.ts'
import { conflictId } from '../report/ledger.ts'
import { patternsOfKeys } from './pattern.ts'

/** A conflict, and the file that it is in. */
export interface PlacedConflict extends Conflict {
  path: string
  /** Whose file it is, where several variants are carried. */
  variant?: string
  /** Whether it is asked of a file that could not be read. */
  unread?: true
}

/** Conflicts that are alike: the same pattern of keys and the same three values. One question. */
export interface Question {
  /** The files that they are in. */
  paths: string[]
  pattern: string
  /** The first of them; the others differ in their key and their place alone. */
  example: PlacedConflict
  conflicts: PlacedConflict[]
  /** Where several keys of an entry are decided as one: the others of the example's entry. */
  tied: PlacedConflict[]
}

/** The conflicts of one file. */
export interface FileConflicts {
  path: string
  conflicts: readonly Conflict[]
  variant?: string
  outcome?: Outcome
}

/** The question that a file which could not be read is: whose file is the result to have? */
function unreadConflict(path: string): PlacedConflict {
  const values = { old: null, new: null, mine: null, result: null }
  const at = { old: null, new: null, mine: null }
  const id = conflictId(path, '', ['unread'])
  return { path, key: '', kind: 'file', id, ...values, at, unread: true }
}

/** All conflicts as questions, the one over most keys first, then in the order of the files. */
export function questionsOf(files: readonly FileConflicts[]): Question[] {
  const questions = new Map<string, Question>()
  for (const { path, conflicts, variant, outcome } of files) {
    const asked = outcome === 'unread' ? [unreadConflict(path)] : conflicts
    const keys = asked.map(({ key }) => key)
    const patterns = new Map(patternsOfKeys(keys).map((pattern, i) => [keys[i], pattern]))
    for (const group of inOneQuestion(asked)) {
      const [example, ...tied] = group.map((conflict) => ({
        ...conflict,
        path,
        ...(variant === undefined ? {} : { variant }),
      }))
      if (example === undefined) continue
      const alike = alikeness([example, ...tied], patterns)
      const question = questions.get(alike)
      if (question === undefined) {
        const pattern = patterns.get(example.key) ?? example.key
        const conflictsOf = [example, ...tied]
        questions.set(alike, { paths: [path], pattern, example, conflicts: conflictsOf, tied })
        continue
      }
      question.conflicts.push(example, ...tied)
      if (!question.paths.includes(path)) question.paths.push(path)
    }
  }
  return [...questions.values()].sort((a, b) => b.conflicts.length - a.conflicts.length)
}

/** What alike conflicts have in common; of whole files each is a question of its own. */
function alikeness(
  conflicts: readonly PlacedConflict[],
  patterns: ReadonlyMap<string | undefined, string>,
): string {
  const parts = conflicts.flatMap(({ path, key, kind, old, new: fresh, mine, id }) =>
    key === '' ? [path, id] : [patterns.get(key) ?? key, kind, old, fresh, mine],
  )
  return parts.map((part) => (part === null ? '-' : `${part.length}:${part}`)).join()
}

/** Conflicts that are decided as one, together; all others by themselves. */
function inOneQuestion(conflicts: readonly Conflict[]): Conflict[][] {
  const all: Conflict[][] = []
  const known = new Map<string, Conflict[]>()
  for (const conflict of conflicts) {
    const group = conflict.together?.join('\0')
    const others = group === undefined ? undefined : known.get(group)
    if (others !== undefined) others.push(conflict)
    else {
      all.push([conflict])
      if (group !== undefined) known.set(group, all.at(-1) ?? [conflict])
    }
  }
  return all
}
