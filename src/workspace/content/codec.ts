import { isUtf8 } from 'node:buffer'
import type iconvLite from 'iconv-lite'

let iconv: typeof iconvLite | undefined

/** Encodings that need no table: what every Node can do by itself. */
const BUILT_IN = new Set(['utf-8', 'utf8', 'utf-16', 'us-ascii', 'ascii'])

const DECLARATION = /^<\?xml[^>]*?encoding\s*=\s*["']([A-Za-z][A-Za-z0-9._-]*)["']/

/** The encoding that an XML declaration names, in small letters; undefined where none needs a table. */
export function declaredEncoding(bytes: Buffer): string | undefined {
  const name = namedEncoding(bytes)
  return name === undefined || BUILT_IN.has(name) ? undefined : name
}

/** Whether an XML declaration says that bytes are of an encoding in which they would be UTF-8. */
export function saysUtf8(bytes: Buffer): boolean {
  const name = namedEncoding(bytes)
  return name !== undefined && BUILT_IN.has(name) && name !== 'utf-16'
}

/** The encoding that an XML declaration names, in small letters. */
function namedEncoding(bytes: Buffer): string | undefined {
  if (bytes[0] !== 0x3c || bytes[1] !== 0x3f) return undefined // no <?
  return DECLARATION.exec(bytes.toString('latin1', 0, 200))?.[1]?.toLowerCase()
}

/** Loads the tables of encodings, once, where one of the files needs them. */
export async function loadCodecs(files: readonly (Buffer | undefined)[]): Promise<void> {
  if (iconv !== undefined) return
  const needs = (bytes: Buffer | undefined): boolean =>
    bytes !== undefined && (!isUtf8(bytes) || declaredEncoding(bytes) !== undefined)
  if (files.some(needs)) iconv = (await import('iconv-lite')).default
}

/** Loads them without looking at a file. */
export async function loadTables(): Promise<void> {
  iconv ??= (await import('iconv-lite')).default
}

/** Whether there is an encoding of that name. */
export function isKnownEncoding(encoding: string): boolean {
  return iconv?.encodingExists(encoding) === true
}

/** Text in an encoding by name; undefined where it is not known, or the bytes are none of its. */
export function decodeWith(encoding: string, bytes: Buffer): string | undefined {
  if (iconv === undefined || !isKnownEncoding(encoding)) return undefined
  const text = iconv.decode(bytes, encoding, { stripBOM: false })
  return iconv.encode(text, encoding).equals(bytes) ? text : undefined
}

/** Whether an encoding has all characters of a text. */
export function hasAll(encoding: string, text: string): boolean {
  return iconv === undefined || iconv.decode(iconv.encode(text, encoding), encoding) === text
}

/** Bytes in an encoding by name; characters that it lacks go through `escape`. */
export function encodeWith(
  encoding: string,
  text: string,
  escape: (character: string) => string,
): Buffer {
  if (iconv === undefined) throw new Error(`the tables for ${encoding} are not loaded`)
  const bytes = iconv.encode(text, encoding)
  if (iconv.decode(bytes, encoding) === text) return bytes
  const codec = iconv
  const has = (character: string): boolean =>
    codec.decode(codec.encode(character, encoding), encoding) === character
  let escaped = ''
  for (const character of text)
    escaped += character < '\u0080' || has(character) ? character : escape(character)
  return codec.encode(escaped, encoding)
}
