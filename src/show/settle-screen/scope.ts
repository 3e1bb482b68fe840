import type { ScreenAnswer } from '../../core/facts/screen.ts'
import type { QuestionChoice } from '../../core/grouping/choices.ts'
import type { Habit } from '../../core/grouping/habits.ts'
import { byHabit } from '../../core/grouping/habits.ts'
import type { PlacedConflict, Question } from '../../core/grouping/questions.ts'

/** How far an answer goes: one key, the question, or all keys of its pattern, whatever their values are. */
export type AnswerScope = 'this' | 'alike' | 'pattern'

/** An answer to a question, before it is known how far it goes. */
export interface ScreenChoice extends QuestionChoice {
  /** The habit that the value comes from: then each key gets its own multiple. */
  habit?: Habit
}

/** The questions that have the pattern of one, the one itself first. */
export function ofPattern(question: Question, all: readonly Question[]): Question[] {
  const others = all.filter(
    (each) =>
      each !== question &&
      each.pattern === question.pattern &&
      each.example.key !== '' &&
      each.tied.length === question.tied.length,
  )
  return [question, ...others]
}

/** How far an answer to a question can go. */
export function scopesOf(question: Question, all: readonly Question[]): AnswerScope[] {
  const { conflicts, tied, example } = question
  const isAlone = conflicts.length === 1 + tied.length
  const isOnly = example.key === '' || ofPattern(question, all).length === 1
  return [...(isAlone ? [] : ['alike' as const]), 'this', ...(isOnly ? [] : ['pattern' as const])]
}

/** The keys that an answer is for. */
export function answered(
  question: Question,
  scope: AnswerScope,
  all: readonly Question[],
): PlacedConflict[] {
  switch (scope) {
    case 'this':
      return [question.example, ...question.tied]
    case 'alike':
      return question.conflicts
    case 'pattern':
      return ofPattern(question, all).flatMap(({ conflicts }) => conflicts)
  }
}

/** What each key gets; one for which the choice makes no sense is left out. */
export function answersOf(
  conflicts: readonly PlacedConflict[],
  choice: ScreenChoice,
): ScreenAnswer[] {
  return conflicts.flatMap(({ path, key, new: fresh, perhaps }) => {
    if (choice.take.startsWith('onto:')) {
      // what one entry may have become another has not
      const onto = perhaps?.path === path ? perhaps.key : undefined
      return onto == null ? [] : [{ path, key, take: `onto:${onto}` }]
    }
    if (choice.habit === undefined) return [{ path, key, take: choice.take }]
    const value = byHabit(choice.habit, fresh)
    return value === undefined ? [] : [{ path, key, take: `value:${value}` }]
  })
}
