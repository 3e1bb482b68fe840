import { isBlank } from '../../document/characters.ts'
import {
  BACKSLASH,
  CLOSE_BRACE,
  CLOSE_BRACKET,
  COMMA,
  DIGIT_0,
  DIGIT_9,
  QUOTE,
} from './characters.ts'

/*
 * What nearly all strings and words of JSON are. These say where a plain one ends, and -1 for all that takes
 * a closer look: an escape, an exponent, whatever is wrong.
 */

/** The end of the string that opens at `at` and has no escapes; -1 where there is none. */
export function plainStringEnd(source: string, open: number, end: number): number {
  if (open >= end || source.charCodeAt(open) !== QUOTE) return -1
  for (let at = open + 1; at < end; at++) {
    const code = source.charCodeAt(at)
    if (code === QUOTE) return at + 1
    if (code === BACKSLASH || code < 32) return -1
  }
  return -1
}

const MINUS = 45
const DOT = 46
const LETTER_F = 102
const LETTER_N = 110
const LETTER_T = 116

/** The end of a number without an exponent or of a literal, behind which a delimiter stands; else -1. */
export function plainWordEnd(source: string, from: number, end: number): number {
  let at = from
  let code = at < end ? source.charCodeAt(at) : 0
  if (code === LETTER_T && source.startsWith('true', at)) at += 4
  else if (code === LETTER_F && source.startsWith('false', at)) at += 5
  else if (code === LETTER_N && source.startsWith('null', at)) at += 4
  else {
    if (code === MINUS) at++
    const whole = digitsEnd(source, at, end)
    if (whole === at || (source.charCodeAt(at) === DIGIT_0 && whole > at + 1)) return -1
    at = whole
    if (at < end && source.charCodeAt(at) === DOT) {
      at = digitsEnd(source, whole + 1, end)
      if (at === whole + 1) return -1
    }
  }
  if (at >= end) return at
  code = source.charCodeAt(at)
  return code === COMMA || code === CLOSE_BRACE || code === CLOSE_BRACKET || isBlank(code) ? at : -1
}

function digitsEnd(source: string, from: number, end: number): number {
  let at = from
  while (at < end) {
    const code = source.charCodeAt(at)
    if (code < DIGIT_0 || code > DIGIT_9) break
    at++
  }
  return at
}
