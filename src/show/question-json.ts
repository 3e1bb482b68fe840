import { choicesOf } from '../core/grouping/choices.ts'
import type { Habit } from '../core/grouping/habits.ts'
import type { Question } from '../core/grouping/questions.ts'
import { PLAIN } from './paint.ts'
import type { QuestionDocument } from './question-document.ts'
import { conflictSentence, tiedSentence } from './sentence.ts'

/** A question as JSON documents have it. */
export function questionJson(question: Question, habits: readonly Habit[]): QuestionDocument {
  const { pattern, paths, example, conflicts, tied } = question
  const variants = [...new Set(conflicts.flatMap(({ variant }) => variant ?? []))]
  return {
    pattern,
    paths: [...paths],
    ...(variants.length === 0 ? {} : { variants }),
    kind: example.kind,
    count: conflicts.length,
    old: example.old,
    new: example.new,
    mine: example.mine,
    sentence: questionSentence(question),
    ids: conflicts.map(({ id }) => id),
    keys: conflicts.map(({ path, key }) => ({ path, key })),
    choices: choicesOf(question, habits),
    earlier: tied.length === 0 ? (example.earlier ?? null) : null,
  }
}

function questionSentence({ example, tied }: Question): string {
  return tied.length === 0
    ? conflictSentence(example, PLAIN)
    : tiedSentence([example, ...tied], PLAIN)
}
