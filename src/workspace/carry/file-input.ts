import type { Doc } from '../../core/formats/doc.ts'
import type { FileReport } from '../../core/report/report.ts'
import type { FormatName } from '../../core/formats/index.ts'
import type { Triple } from '../../core/document/sides.ts'
import type { FileRule } from '../config/config.ts'

/** One file as old, new and mine hold it; undefined where it is not there. */
export interface FileInput {
  path: string
  bytes: Triple<Buffer | undefined>
  rule: FileRule | undefined
  /** The format that the call names, for single files. */
  format: FormatName | undefined
  /** A key that is to be explained. */
  explain?: string | undefined
  /** Whether only the report is wanted, and no result. */
  onlyReport?: boolean
  /** Shown the documents of a file that is merged by key. */
  inspect?: ((docs: Triple<Doc>) => void) | undefined
  /** Whether there is no old vanilla at all, so that nothing is known of who changed what. */
  oldUnknown?: boolean
  /** Whether some other file of vanilla is text of one byte a character, without saying of which alphabet. */
  vanillaIsSingleByte?: () => boolean
}

export interface CarriedFile {
  report: FileReport
  /** What the result holds; undefined where it has no such file. */
  bytes: Buffer | undefined
}

/** Whether both are there and hold the same bytes. */
export function same(a: Buffer | undefined, b: Buffer | undefined): boolean {
  return a !== undefined && b !== undefined && a.equals(b)
}
