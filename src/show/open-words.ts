import type { Question } from '../core/grouping/questions.ts'
import { count } from './text.ts'

/** How many keys questions ask about. */
export function keysOf(questions: readonly Pick<Question, 'conflicts'>[]): number {
  return questions.reduce((sum, { conflicts }) => sum + conflicts.length, 0)
}

/** What holds while questions are open. @param keys how many they ask about */
export function stillOpen(questions: number, keys: number): string {
  const are = questions === 1 ? 'is' : 'are'
  return `${count(questions, 'question')} over ${count(keys, 'key')} ${are} open; until you answer, your values stand.`
}
