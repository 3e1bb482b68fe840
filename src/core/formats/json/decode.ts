const ESCAPE = /\\(?:u([0-9a-fA-F]{4})|(.))/g
const LETTERS: Record<string, string> = { b: '\b', f: '\f', n: '\n', r: '\r', t: '\t' }

/** The inside of a JSON string with its escapes resolved. */
export function decodeString(raw: string): string {
  if (!raw.includes('\\')) return raw
  return raw.replace(ESCAPE, (_whole, hex?: string, letter = '') =>
    hex === undefined ? (LETTERS[letter] ?? letter) : String.fromCharCode(parseInt(hex, 16)),
  )
}
