import { decodeWith } from './codec.ts'

/** The alphabets of one byte a character in which such files were written, the customary first. */
const ALPHABETS = [
  'windows-1252',
  'windows-1251',
  'windows-1250',
  'windows-1254',
  'windows-1253',
  'windows-1257',
  'iso-8859-15',
  'koi8-r',
  'cp866',
  'cp437',
]

/**
 * The alphabet of bytes that do not say it: the one in which they share most words beyond ASCII with
 * texts that are known, for they are versions of one file. Undefined where they share none.
 * The tables of encodings must be loaded.
 */
export function alphabetOf(bytes: readonly Buffer[], known: readonly string[]): string | undefined {
  const words = new Set(known.flatMap(wordsBeyondAscii))
  let best: { name: string; shared: number } | undefined
  for (const name of ALPHABETS) {
    const texts = bytes.map((each) => decodeWith(name, each))
    if (texts.includes(undefined)) continue
    const found = new Set(texts.flatMap((text) => wordsBeyondAscii(text ?? '')))
    const shared = [...found].filter((word) => words.has(word)).length
    if (shared > (best?.shared ?? 0)) best = { name, shared }
  }
  return best?.name
}

/** Words of at least three letters that have a letter beyond ASCII. */
function wordsBeyondAscii(text: string): string[] {
  return (text.match(/\p{L}{3,}/gu) ?? []).filter((word) => /[^\0-\x7f]/.test(word))
}
