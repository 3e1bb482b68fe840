import { isUtf8 } from 'node:buffer'

/** How a file's bytes hold its text. */
export interface TextForm {
  encoding: 'utf-8' | 'utf-16le' | 'utf-16be'
  bom: boolean
}

export type Decoded =
  | { text: string; form: TextForm }
  /** Bytes that are no text in the encoding: where the first of them stands. */
  | { invalid: { byte: number; line: number; column: number; text: string } }

/** Bytes as text, once: the byte order mark decides, else they are UTF-8. The mark is no part of the text. */
export function decode(bytes: Buffer): Decoded {
  if (bytes.length >= 2 && bytes[0] === 0xff && bytes[1] === 0xfe && bytes.length % 2 === 0) {
    return { text: bytes.toString('utf16le', 2), form: { encoding: 'utf-16le', bom: true } }
  }
  if (bytes.length >= 2 && bytes[0] === 0xfe && bytes[1] === 0xff && bytes.length % 2 === 0) {
    const swapped = Buffer.from(bytes.subarray(2)).swap16()
    return { text: swapped.toString('utf16le'), form: { encoding: 'utf-16be', bom: true } }
  }
  if (!isUtf8(bytes)) return { invalid: firstInvalid(bytes) }
  const bom = bytes.length >= 3 && bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf
  return { text: bytes.toString('utf8', bom ? 3 : 0), form: { encoding: 'utf-8', bom } }
}

/** Text as bytes, once. */
export function encode(text: string, form: TextForm): Buffer {
  if (form.encoding === 'utf-8') return Buffer.from(form.bom ? `\uFEFF${text}` : text, 'utf8')
  const bytes = Buffer.from(form.bom ? `\uFEFF${text}` : text, 'utf16le')
  return form.encoding === 'utf-16le' ? bytes : bytes.swap16()
}

/** Whether bytes look like no text at all: a zero byte near the start, and no byte order mark. */
export function looksBinary(bytes: Buffer): boolean {
  const marked =
    bytes.length >= 2 &&
    ((bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff))
  return !marked && bytes.subarray(0, 8192).includes(0)
}

function firstInvalid(bytes: Buffer): { byte: number; line: number; column: number; text: string } {
  let low = 0
  let high = bytes.length
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (isUtf8(bytes.subarray(0, characterStart(bytes, middle)))) low = middle
    else high = middle - 1
  }
  const byte = characterStart(bytes, low)
  const before = bytes.toString('utf8', 0, byte)
  const lines = before.split(/\r\n|\r|\n/)
  const lineEnd = bytes.indexOf(10, byte)
  const rest = bytes.toString('utf8', byte, lineEnd < 0 ? bytes.length : lineEnd)
  const last = lines.at(-1) ?? ''
  return {
    byte,
    line: lines.length,
    column: last.length + 1,
    text: (last + rest).replace(/\r$/, ''),
  }
}

/** The largest offset up to `at` at which no multi-byte sequence is open. */
function characterStart(bytes: Buffer, at: number): number {
  let start = at
  while (start > 0 && start < bytes.length && ((bytes[start] ?? 0) & 0xc0) === 0x80) start--
  return start
}
