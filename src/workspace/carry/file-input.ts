import type { Recalled, Remembered } from '../../core/report/remembered.ts'
import type { ReadDocuments } from '../../core/carry/plan-texts.ts'
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
  /** Place to identity, as it was chosen when this file was carried before. */
  identityBefore?: ReadonlyMap<string, string> | undefined
  /** What was decided for this file before. */
  remembered?: readonly Remembered[]
  /** Whether only the report is wanted, and no result. */
  onlyReport?: boolean
  /** Shown the documents of a file that is merged by key. */
  inspect?: ((read: ReadDocuments) => void) | undefined
  /** Whether there is no old vanilla at all, so that nothing is known of who changed what. */
  oldUnknown?: boolean
  /** Whether some other file of vanilla is text of one byte a character, without saying of which alphabet. */
  vanillaIsSingleByte?: () => boolean
}

export interface CarriedFile {
  report: FileReport
  /** What the result holds; undefined where it has no such file. */
  bytes: Buffer | undefined
  /** What became of what was decided before; absent where nothing was. */
  recalled?: Recalled
}

/** Whether both are there and hold the same bytes. */
export function same(a: Buffer | undefined, b: Buffer | undefined): boolean {
  return a !== undefined && b !== undefined && a.equals(b)
}
