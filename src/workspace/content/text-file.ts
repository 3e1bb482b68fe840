import { isAscii, isUtf8 } from 'node:buffer'
import type { FormatName } from '../../core/formats/index.ts'
import { formatNamed } from '../../core/formats/index.ts'
import { declaredEncoding, decodeWith, encodeWith, saysUtf8 } from './codec.ts'

/** The encoding of bytes that are carried as they are, one a character, whatever letters they mean. */
export const AS_BYTES = 'latin1'

/** How a file's bytes hold its text. */
export interface TextForm {
  /** `utf-8`, `utf-16le`, `utf-16be`, a name that the file declares, or `latin1`: bytes as they are. */
  encoding: string
  bom: boolean
}

export type Decoded = { text: string; form: TextForm } | { invalid: Invalid }

/** Bytes that are no text in the encoding: where that is seen, and which encoding it was. */
export interface Invalid {
  /** The offset of the first of them; of the declaration, where another encoding than UTF-8 is declared. */
  byte: number
  line: number
  column: number
  text: string
  encoding: string
}

/**
 * Bytes as text, once: the byte order mark decides, then what the file declares, else they are UTF-8.
 * The mark is no part of the text.
 *
 * @param singleByte the encoding of bytes that are no UTF-8 and do not say what they are
 */
export function decode(bytes: Buffer, singleByte: string | undefined = undefined): Decoded {
  if (startsWith(bytes, 0xff, 0xfe) && bytes.length % 2 === 0) {
    return { text: bytes.toString('utf16le', 2), form: { encoding: 'utf-16le', bom: true } }
  }
  if (startsWith(bytes, 0xfe, 0xff) && bytes.length % 2 === 0) {
    const swapped = Buffer.from(bytes.subarray(2)).swap16()
    return { text: swapped.toString('utf16le'), form: { encoding: 'utf-16be', bom: true } }
  }
  const declared = startsWith(bytes, 0xef, 0xbb, 0xbf) ? undefined : declaredEncoding(bytes)
  if (declared !== undefined) {
    const text = decodeWith(declared, bytes)
    if (text !== undefined) return { text, form: { encoding: declared, bom: false } }
    return { invalid: declaration(bytes, declared) }
  }
  if (!isUtf8(bytes)) {
    if (singleByte === undefined || saysUtf8(bytes)) return { invalid: firstInvalid(bytes) }
    const form = { encoding: singleByte, bom: false }
    return { text: textIn(singleByte, bytes), form }
  }
  const bom = startsWith(bytes, 0xef, 0xbb, 0xbf)
  return { text: bytes.toString('utf8', bom ? 3 : 0), form: { encoding: 'utf-8', bom } }
}

function textIn(encoding: string, bytes: Buffer): string {
  if (encoding === AS_BYTES) return bytes.toString(AS_BYTES)
  return decodeWith(encoding, bytes) ?? bytes.toString(AS_BYTES)
}

/** Whether bytes are text of one byte a character without saying of which alphabet. */
export function isSingleByte(bytes: Buffer): boolean {
  if (isUtf8(bytes) || looksBinary(bytes)) return false
  return declaredEncoding(bytes) === undefined && !saysUtf8(bytes)
}

/** Whether bytes mean the same text in every encoding that has ASCII. */
export function isPlainAscii(bytes: Buffer): boolean {
  return isAscii(bytes)
}

/** Text as bytes, once. Characters that the encoding lacks are written as the format can: by reference or escape. */
export function encode(text: string, form: TextForm, format?: FormatName): Buffer {
  const marked = form.bom ? `\uFEFF${text}` : text
  if (form.encoding === 'utf-8') return Buffer.from(marked, 'utf8')
  if (form.encoding === 'utf-16le') return Buffer.from(marked, 'utf16le')
  if (form.encoding === 'utf-16be') return Buffer.from(marked, 'utf16le').swap16()
  if (form.encoding === AS_BYTES) return Buffer.from(text, AS_BYTES)
  const escape = format === undefined ? undefined : formatNamed(format).escape
  return encodeWith(form.encoding, text, escape ?? noEscape)
}

function noEscape(character: string): never {
  throw new Error(`the encoding lacks ${character}, and the format has no way to write it`)
}

/** Whether bytes look like no text at all: a zero byte near the start, and no byte order mark. */
export function looksBinary(bytes: Buffer): boolean {
  const marked = startsWith(bytes, 0xff, 0xfe) || startsWith(bytes, 0xfe, 0xff)
  return !marked && bytes.subarray(0, 8192).includes(0)
}

function startsWith(bytes: Buffer, ...start: number[]): boolean {
  return start.every((byte, i) => bytes[i] === byte)
}

function firstInvalid(bytes: Buffer): Invalid {
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
  const text = (last + rest).replace(/\r$/, '')
  return { byte, line: lines.length, column: last.length + 1, text, encoding: 'utf-8' }
}

/** The place where a file names its encoding, which its bytes are not in. */
function declaration(bytes: Buffer, encoding: string): Invalid {
  const [text = ''] = bytes.toString(AS_BYTES, 0, 200).split(/[\r\n]/)
  const byte = Math.max(0, text.toLowerCase().indexOf(encoding))
  return { byte, line: 1, column: byte + 1, text, encoding }
}

/** The largest offset up to `at` at which no multi-byte sequence is open. */
function characterStart(bytes: Buffer, at: number): number {
  let start = at
  while (start > 0 && start < bytes.length && ((bytes[start] ?? 0) & 0xc0) === 0x80) start--
  return start
}
