import { parentOf } from '../keys/key.ts'
import type { DecisionTake } from '../report/remembered.ts'
import type { Conflict } from '../report/ledger.ts'
import type { Habit } from './habits.ts'
import { byHabit } from './habits.ts'
import type { Question } from './questions.ts'

/** One answer to a question: what is to be said, what stands there then, and why one would want that. */
export interface QuestionChoice {
  /** As `settle --take` has it: `mine`, `value:12`, `onto:find[lantern]`. */
  take: string
  /** What would stand there; null where nothing would. */
  value: string | null
  why: string
}

/** The answers to a question, mine first, since that stands until one is given. */
export function choicesOf(question: Question, habits: readonly Habit[]): QuestionChoice[] {
  const { example, pattern, tied } = question
  const sides: QuestionChoice[] = [
    { take: 'mine', value: example.mine, why: 'yours, so far' },
    { take: 'vanilla', value: example.new, why: 'as vanilla has it' },
  ]
  if (tied.length > 0) return sides
  return [
    ...sides,
    ...(canBeBoth(example) ? [bothOf(example)] : []),
    ...ontoOf(example),
    ...habits
      .filter((habit) => habit.pattern === pattern && example.kind === 'two-values')
      .flatMap((habit) => byHabitOf(habit, example)),
  ]
}

/** The entry of vanilla's in the same list that is likely the one that vanilla dropped: the operator's edits fit it. */
function ontoOf({ kind, key, path, perhaps }: Question['example']): QuestionChoice[] {
  const now = perhaps?.path === path ? perhaps.key : null
  // of what the operator dropped there are no edits, and what stands elsewhere is what they moved or another's
  if (now === null || kind !== 'gone-in-vanilla' || parentOf(now) !== parentOf(key)) return []
  return [{ take: `onto:${now}`, value: now, why: 'carry your edits to that' }]
}

/** Whether both sides' can stand, one behind the other. */
function canBeBoth({ kind, takesBoth }: Conflict): boolean {
  return kind === 'lines' || takesBoth === true
}

function bothOf({ new: fresh, mine }: Conflict): QuestionChoice {
  const value = [fresh, mine].filter((each) => each !== null).join(', ')
  return { take: 'both', value, why: "both, vanilla's first" }
}

function byHabitOf(habit: Habit, example: Conflict): QuestionChoice[] {
  const value = byHabit(habit, example.new)
  if (value === undefined || value === example.new || value === example.mine) return []
  const { times, plus = 0, holds, of } = habit
  const law = times === undefined ? `${plus < 0 ? '' : '+'}${plus}` : `${times} times`
  return [
    { take: `value:${value}`, value, why: `${law} vanilla's, as on ${holds} of ${of} of yours` },
  ]
}

/** What a take says: the word, and what stands behind its colon. */
export function parsedTake(text: string): { take: DecisionTake; value?: string } | undefined {
  if (text === 'vanilla' || text === 'mine' || text === 'both') return { take: text }
  const [, take, value] = /^(value|source|onto):([^]*)$/.exec(text) ?? []
  if (take === undefined || value === undefined) return undefined
  return { take: take as DecisionTake, value } // one of the three words
}
