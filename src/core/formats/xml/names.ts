/*
 * Names of XML 1.0 (fifth edition), section 2.3:
 *   NameStartChar ::= ":" | [A-Z] | "_" | [a-z] | ranges above U+00BF
 *   NameChar      ::= NameStartChar | "-" | "." | [0-9] | U+00B7 | [U+0300-U+036F] | [U+203F-U+2040]
 */

const START = 1
const INNER = 2

const ascii = new Uint8Array(128)
for (const character of ':_ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz') {
  ascii[character.charCodeAt(0)] = START | INNER
}
for (const character of '-.0123456789') ascii[character.charCodeAt(0)] = INNER

const startRanges = [
  0xc0, 0xd6, 0xd8, 0xf6, 0xf8, 0x2ff, 0x370, 0x37d, 0x37f, 0x1fff, 0x200c, 0x200d, 0x2070, 0x218f,
  0x2c00, 0x2fef, 0x3001, 0xd7ff, 0xf900, 0xfdcf, 0xfdf0, 0xfffd,
]
const innerRanges = [0xb7, 0xb7, 0x300, 0x36f, 0x203f, 0x2040]

/** High surrogates of U+10000 to U+EFFFF, all of which are name characters. */
const isNameSurrogate = (code: number): boolean => code >= 0xd800 && code <= 0xdb7f

function inRanges(code: number, ranges: readonly number[]): boolean {
  for (let i = 0; i < ranges.length; i += 2) {
    if (code >= (ranges[i] ?? 0) && code <= (ranges[i + 1] ?? 0)) return true
  }
  return false
}

/** Whether a name may begin with this code unit. */
export function isNameStart(code: number): boolean {
  if (code < 128) return ((ascii[code] ?? 0) & START) !== 0
  return inRanges(code, startRanges) || isNameSurrogate(code)
}

function isNameInner(code: number): boolean {
  if (code < 128) return ((ascii[code] ?? 0) & INNER) !== 0
  if (inRanges(code, startRanges) || inRanges(code, innerRanges)) return true
  return isNameSurrogate(code) || (code >= 0xdc00 && code <= 0xdfff)
}

/** The end of the name that begins at `from`; `from` itself where none does. */
export function skipName(source: string, from: number, to: number): number {
  if (from >= to || !isNameStart(source.charCodeAt(from))) return from
  let at = from + 1
  while (at < to && isNameInner(source.charCodeAt(at))) at++
  return at
}
