import picomatch from 'picomatch'
import type { KeySegment } from '../keys/key.ts'
import { keySegments, unquoteName } from '../keys/key.ts'
import { slashed } from '../keys/slashed.ts'

/** A place of a check: `FILES: KEYS`, both patterns; files alone where there is no key. */
export interface PlacePattern {
  files: string
  /** Undefined where files or folders are meant. */
  keys: string | undefined
}

export function parsePlace(text: string): PlacePattern {
  const colon = text.indexOf(': ')
  if (colon < 0) return { files: text.trim(), keys: undefined }
  return { files: text.slice(0, colon).trim(), keys: text.slice(colon + 2).trim() }
}

/** What the wildcards of a pattern stand for in a path; undefined where the path does not match. */
export function pathMatcher(pattern: string): (path: string) => string[] | undefined {
  const made = picomatch.makeRe(slashed(pattern), {
    dot: true,
    nocase: true,
    capture: true,
  })
  return (path) => {
    const found = made.exec(path)
    return found === null ? undefined : found.slice(1).map((each: string | undefined) => each ?? '')
  }
}

/** A step of a key pattern: `*` stands for any name or identity, `**` for any number of steps. */
export interface Step {
  name: string | '*' | '**'
  /** Undefined where the pattern has no brackets: then any entry of the name is meant. */
  identity: string | undefined
}

/** Whether keys match a pattern: `find[*]/worth`, `**\/@id`. */
export class KeyPattern {
  private readonly steps: readonly Step[]

  constructor(pattern: string) {
    this.steps = stepsOf(pattern)
  }

  matches(key: readonly Step[]): boolean {
    return this.from(key, 0, 0)
  }

  private from(key: readonly Step[], at: number, step: number): boolean {
    const wanted = this.steps[step]
    const there = key[at]
    if (wanted === undefined) return there === undefined
    if (wanted.name === '**') {
      if (this.from(key, at, step + 1)) return true
      return there !== undefined && this.from(key, at + 1, step)
    }
    if (there === undefined || !fits(wanted, there)) return false
    return this.from(key, at + 1, step + 1)
  }
}

/** The steps of a key. */
export function stepsOf(key: string): Step[] {
  return keySegments(key).map(stepOf)
}

function stepOf({ name, identity }: KeySegment): Step {
  // the second of two with one identity is still an entry of it
  return { name: unquoteName(name.replace(/~[0-9]+$/, '')), identity }
}

function fits(wanted: Step, there: Step): boolean {
  if (wanted.name !== '*' && wanted.name !== there.name) return false
  if (wanted.identity === undefined || wanted.identity === '*') return true
  return there.identity === wanted.identity
}
