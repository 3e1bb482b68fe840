import { formatOfPath, formatOfText, isPlainPath } from '../../core/formats/detect.ts'
import type { FormatName } from '../../core/formats/index.ts'
import { formatOfRule } from '../config/format-rule.ts'
import type { FileInput } from '../carry/file-input.ts'
import { decode, looksBinary } from './text-file.ts'

/** The format of a file, and how sure that is. */
export interface KnownFormat {
  name: FormatName | 'text'
  /** Whether it was said, by the call, the config or the extension; else the content looks like it. */
  certain: boolean
}

/**
 * The format of a file: as the call or the config says, by its extension, else by its content; `text`
 * where it is text of no known format, undefined where it is none.
 */
export function formatOf(input: FileInput): KnownFormat | undefined {
  const said = input.format ?? formatOfRule(input.rule?.format) ?? formatOfPath(input.path)
  if (said !== undefined) return { name: said, certain: true }
  const all = input.bytes.filter((bytes) => bytes !== undefined)
  if (all.some(looksBinary)) return undefined
  if (!isPlainPath(input.path)) {
    const [first, ...others] = all.map(formatOfBytes)
    if (first !== undefined && others.every((name) => name === first))
      return { name: first, certain: false }
  }
  return { name: 'text', certain: false }
}

/** The same of a file by itself. */
export function formatOfFile(path: string, bytes: Buffer): KnownFormat | undefined {
  return formatOf({
    path,
    bytes: [bytes, undefined, undefined],
    rule: undefined,
    format: undefined,
  })
}

function formatOfBytes(bytes: Buffer): FormatName | undefined {
  const decoded = decode(bytes.subarray(0, 16384))
  return 'text' in decoded ? formatOfText(decoded.text) : undefined
}
