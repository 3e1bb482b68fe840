import { readFileSync } from 'node:fs'
import type { FolderContext } from './carry-entry.ts'
import type { Config } from '../config/config.ts'
import { isSingleByte } from '../content/text-file.ts'
import type { TreeEntry } from '../tree.ts'
import type { FilePair } from './pair-files.ts'
import { NEW, OLD } from '../../core/document/sides.ts'
import type { Remembered } from '../../core/report/remembered.ts'

/** What a thread must know to carry files of a folder: all of it can be sent to one. */
export interface FolderJob {
  config: Config
  oldUnknown: boolean
  explain: string | undefined
  /** What told entries apart when they were carried before, by path. */
  identities: ReadonlyMap<string, ReadonlyMap<string, string>> | undefined
  /** What was decided before, by path. */
  remembered: ReadonlyMap<string, readonly Remembered[]> | undefined
  /** Where the result is written for now; undefined where nothing is. */
  folder: string | undefined
}

/** @param pairs the files that are carried, and by which vanilla's own can be found */
export function contextOf(job: FolderJob, pairs: readonly FilePair[]): FolderContext {
  const { config, oldUnknown, explain, remembered, identities } = job
  const vanillaIsSingleByte = once(() =>
    pairs.some(({ entries }) => [entries[OLD], entries[NEW]].some(isSingleByteFile)),
  )
  return { config, oldUnknown, explain, remembered, identities, vanillaIsSingleByte }
}

/** A question that is answered when it is first asked, and once. */
function once(ask: () => boolean): () => boolean {
  let answer: boolean | undefined
  return () => (answer ??= ask())
}

/** Whether a file is text of one byte a character, whose alphabet no file tells. */
function isSingleByteFile(entry: TreeEntry | undefined): boolean {
  if (entry?.kind !== 'file') return false
  try {
    return isSingleByte(readFileSync(entry.location))
  } catch {
    return false // a file that cannot be read tells nothing here; it is named where it is carried
  }
}
