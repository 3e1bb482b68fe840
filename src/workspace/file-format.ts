import { formatOfPath, formatOfText, isPlainPath } from '../core/formats/detect.ts'
import type { FormatName } from '../core/formats/index.ts'
import type { FileInput } from './file-input.ts'
import { decode, looksBinary } from './text-file.ts'

/** The format of a file, and how sure that is. */
export interface KnownFormat {
  name: FormatName
  /** Whether it was said, by the call, the config or the extension; else the content looks like it. */
  certain: boolean
}

/** The format of a file: as the call or the config says, by its extension, else by its content. */
export function formatOf(input: FileInput): KnownFormat | undefined {
  const said = input.format ?? input.rule?.format ?? formatOfPath(input.path)
  if (said !== undefined) return { name: said, certain: true }
  if (isPlainPath(input.path)) return undefined
  const looks = input.bytes.filter((bytes) => bytes !== undefined).map(formatOfBytes)
  const first = looks[0]
  return first !== undefined && looks.every((name) => name === first)
    ? { name: first, certain: false }
    : undefined
}

function formatOfBytes(bytes: Buffer): FormatName | undefined {
  if (looksBinary(bytes)) return undefined
  const decoded = decode(bytes.subarray(0, 16384))
  return 'text' in decoded ? formatOfText(decoded.text) : undefined
}
