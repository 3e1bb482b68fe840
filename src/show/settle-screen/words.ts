import type { ScreenData } from '../../core/facts/screen.ts'
import type { ClosedKey } from '../../core/facts/settled.ts'
import { keySegments } from '../../core/keys/key.ts'
import { keysOf } from '../open-words.ts'
import { count, oneLine } from '../text.ts'

/** What a decision made of a key. */
export function closedWords({ key, take, result }: ClosedKey): string {
  if (key === '') return `the file is ${take === 'vanilla' ? "vanilla's" : 'yours'}`
  return `${nameOf(key)} is ${shownValue(result)}`
}

/** The last name in a key. */
function nameOf(key: string): string {
  return oneLine(keySegments(key).at(-1)?.name ?? key, 30)
}

/** A value in one line. */
function shownValue(value: string | null): string {
  return value === null ? 'nothing' : value === '' ? 'empty' : oneLine(value, 30)
}

/** How much is open. */
export function openWords({ questions }: ScreenData): string {
  return questions.length === 0
    ? 'Nothing is open.'
    : `${count(questions.length, 'question')} over ${count(keysOf(questions), 'key')} left.`
}

/** What the screen says first: `300 conflicts are 9 questions`. */
export function opening({ questions }: ScreenData): string {
  const keys = keysOf(questions)
  if (questions.length === 0) return 'Nothing is open. This is what vanilla changed and brought.'
  return `${count(keys, 'conflict')} ${keys === 1 ? 'is' : 'are'} ${count(questions.length, 'question')}.`
}
