import type { Said } from './check.ts'

const NUMBER = /^\s*[+-]?(?:[0-9]+\.?[0-9]*|\.[0-9]+)(?:e[+-]?[0-9]+)?\s*$/i

/** The number that a value says; undefined where it says none. */
export function numberOf(value: string | undefined): number | undefined {
  return value !== undefined && NUMBER.test(value) ? Number(value) : undefined
}

/** A value as a sentence names it. */
export function shown(value: string | undefined): string {
  if (value === undefined) return 'an entry'
  return value === '' ? 'an empty value' : value
}

/** What a check says of a value that is to be a number and is none. */
export function noNumber(value: string | undefined, expected = 'a number'): Said {
  return { message: `${shown(value)} is not a number`, expected }
}
