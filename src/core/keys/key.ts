import { afterQuote } from '../document/characters.ts'
/*
 * Keys name places in a file in one notation for all formats:
 *
 *   key      ::= segment ('/' segment)*, where a segment that begins with '[' follows without '/'
 *   segment  ::= name ('[' identity ']')? ('~' occurrence)? | '@' name | '#text' | '[' identity ']'
 *   identity ::= name ('|' name)*
 *   name     ::= plain | '"' … '"' with \" and \\
 */

const NEEDS_QUOTES = /[/[\]"|~\s*?]/

/** A name or an identity as it stands in a key: in double quotes where it would not be read back as one. */
export function quoteName(name: string): string {
  if (name !== '' && !NEEDS_QUOTES.test(name)) return name
  return `"${name.replace(/[\\"]/g, '\\$&')}"`
}

/** A name or an identity as it is, from how it stands in a key. */
export function unquoteName(text: string): string {
  return text.replace(/^"(.*)"$/s, '$1').replace(/\\(.)/g, '$1')
}

/** The segment of an entry that is told by its identity: `[a]`, `[a|b]`. */
export function identitySegment(identity: readonly string[]): string {
  return `[${identity.map(quoteName).join('|')}]`
}

/** The key of a part of what `parent` names. */
export function joinKey(parent: string, segment: string): string {
  if (parent === '' || segment === '' || segment.startsWith('[')) return parent + segment
  return `${parent}/${segment}`
}

/** A segment with its occurrence, counted from 1, where it is not the first of its identity. */
export function withOccurrence(segment: string, occurrence: number): string {
  return occurrence > 1 ? `${segment}~${occurrence}` : segment
}

/** A key with every identity replaced by `*`: what alike keys have in common. */
export function keyPattern(key: string): string {
  let pattern = ''
  let inBrackets = false
  for (let at = 0; at < key.length; at++) {
    const character = key.charAt(at)
    if (character === '"') {
      const end = afterQuote(key, at)
      if (!inBrackets) pattern += key.slice(at, end)
      at = end - 1
    } else if (character === '[') {
      inBrackets = true
      pattern += '[*'
    } else if (character === ']') {
      inBrackets = false
      pattern += ']'
    } else if (!inBrackets) pattern += character
  }
  return pattern.replace(/~[0-9]+/g, '')
}

/** One segment of a key: its name (with `@` where it is an attribute), and its identity as it stands. */
export interface KeySegment {
  name: string
  /** What stands in the brackets; undefined where there are none. */
  identity: string | undefined
  /** Offset after the segment in the key. */
  end: number
}

/** The segments of a key, in order. `find[a]/yield` has two, `[a]/x` and `kit[0]` as many as they have names. */
export function keySegments(key: string): KeySegment[] {
  const segments: KeySegment[] = []
  let name = ''
  let identity: string | undefined
  let at = 0
  const end = (): void => {
    if (name !== '' || identity !== undefined) segments.push({ name, identity, end: at })
    name = ''
    identity = undefined
  }
  while (at < key.length) {
    const character = key.charAt(at)
    if (character === '/') {
      end()
      at++
    } else if (character === '[') {
      if (identity !== undefined) end()
      const close = closingBracket(key, at)
      identity = key.slice(at + 1, close)
      at = close + 1
    } else if (character === '"') {
      const close = afterQuote(key, at)
      name += key.slice(at, close)
      at = close
    } else {
      name += character
      at++
    }
  }
  end()
  return segments
}

function closingBracket(key: string, open: number): number {
  let at = open + 1
  while (at < key.length && key.charAt(at) !== ']') {
    at = key.charAt(at) === '"' ? afterQuote(key, at) : at + 1
  }
  return at
}

/** The key of what holds what a key names; empty where that is the document. */
export function parentOf(key: string): string {
  return key.slice(0, keySegments(key).at(-2)?.end ?? 0)
}

/** Whether a key names something inside of what `around` names. */
export function isBelow(key: string, around: string): boolean {
  return key.startsWith(around) && ['/', '['].includes(key.charAt(around.length))
}

/** The key of the entry that a key is a part of: up to its last identity before the last segment; undefined where there is none. */
export function entryOf(key: string): string | undefined {
  const around = keySegments(key)
    .slice(0, -1)
    .findLast(({ identity }) => identity !== undefined)
  return around === undefined ? undefined : key.slice(0, around.end)
}

/** The identities that stand in a key, each as it is, the parts of a pair parted by `|`. */
export function identitiesIn(key: string): string[] {
  return [...key.matchAll(/\[((?:"(?:[^"\\]|\\.)*"|[^\]"])*)\]/g)].map(([, text = '']) =>
    [...text.matchAll(/"(?:[^"\\]|\\.)*"|[^|]+/g)].map(([part]) => unquoteName(part)).join('|'),
  )
}
