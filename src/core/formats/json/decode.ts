const ESCAPE = /\\(?:u([0-9a-fA-F]{4})|x([0-9a-fA-F]{2})|\r\n|([^]))/g
const LETTERS: Record<string, string> = {
  b: '\b',
  f: '\f',
  n: '\n',
  r: '\r',
  t: '\t',
  v: '\v',
  '\n': '',
}

/** The inside of a JSON string with its escapes resolved. */
export function decodeString(raw: string): string {
  if (!raw.includes('\\')) return raw
  return raw.replace(ESCAPE, (_whole, hex?: string, short?: string, letter = '') => {
    const code = hex ?? short
    if (code !== undefined) return String.fromCharCode(parseInt(code, 16))
    return LETTERS[letter] ?? letter
  })
}
