/* What of XML's grammar is told without state: single characters, references, the declaration, DOCTYPE. */

const QUOTE = 34
const APOSTROPHE = 39
const GREATER = 62
const OPEN_BRACKET = 91
const CLOSE_BRACKET = 93

/** The XML declaration as a whole (section 2.8). */
export const DECLARATION =
  /^<\?xml[ \t\r\n]+version[ \t\r\n]*=[ \t\r\n]*("1\.[0-9]+"|'1\.[0-9]+')([ \t\r\n]+encoding[ \t\r\n]*=[ \t\r\n]*("[A-Za-z][A-Za-z0-9._-]*"|'[A-Za-z][A-Za-z0-9._-]*'))?([ \t\r\n]+standalone[ \t\r\n]*=[ \t\r\n]*("(yes|no)"|'(yes|no)'))?[ \t\r\n]*\?>$/

/** The entities that need no declaration. */
export const PREDEFINED = new Set(['lt', 'gt', 'amp', 'quot', 'apos'])
/** A reference to a character by its number; sticky. */
export const CHARACTER_REFERENCE = /&#(?:x([0-9a-fA-F]+)|([0-9]+));/y

/** `Char` of XML 1.0, section 2.2. */
export function isAllowedCodePoint(code: number): boolean {
  if (code < 0x20) return code === 9 || code === 10 || code === 13
  return (
    code <= 0xd7ff || (code >= 0xe000 && code <= 0xfffd) || (code >= 0x10000 && code <= 0x10ffff)
  )
}

/** The offset after a DOCTYPE's `>`: quotes, comments, instructions and the internal subset are skipped. */
export function doctypeEnd(source: string, at: number): number {
  let inSubset = false
  let from = at + 9
  while (from < source.length) {
    const code = source.charCodeAt(from)
    let skipTo = from + 1
    if (code === QUOTE || code === APOSTROPHE)
      skipTo = after(source, String.fromCharCode(code), from + 1)
    else if (source.startsWith('<!--', from)) skipTo = after(source, '-->', from + 4)
    else if (source.startsWith('<?', from)) skipTo = after(source, '?>', from + 2)
    else if (code === OPEN_BRACKET) inSubset = true
    else if (code === CLOSE_BRACKET) inSubset = false
    else if (code === GREATER && !inSubset) return from + 1
    if (skipTo < 0) return -1
    from = skipTo
  }
  return -1
}

function after(source: string, what: string, from: number): number {
  const found = source.indexOf(what, from)
  return found < 0 ? -1 : found + what.length
}
