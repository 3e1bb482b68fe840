import { readFileSync } from 'node:fs'
import type { FolderContext } from './carry-entry.ts'
import type { Config } from '../config/config.ts'
import { isSingleByte } from '../content/text-file.ts'
import { readTree } from '../tree.ts'

/** What a thread must know to carry files of a folder: all of it can be sent to one. */
export interface FolderJob {
  config: Config
  oldUnknown: boolean
  explain: string | undefined
  /** The folders of vanilla. */
  vanilla: readonly string[]
  /** Where the result is written for now; undefined where nothing is. */
  folder: string | undefined
}

export function contextOf({ config, oldUnknown, explain, vanilla }: FolderJob): FolderContext {
  const vanillaIsSingleByte = once(() => vanilla.some(hasSingleByte))
  return { config, oldUnknown, explain, vanillaIsSingleByte }
}

/** A question that is answered when it is first asked, and once. */
function once(ask: () => boolean): () => boolean {
  let answer: boolean | undefined
  return () => (answer ??= ask())
}

/** Whether a folder has text of one byte a character, whose alphabet no file tells. */
function hasSingleByte(folder: string): boolean {
  return [...readTree(folder, undefined, new Map()).values()].some(({ kind, location }) => {
    if (kind !== 'file') return false
    try {
      return isSingleByte(readFileSync(location))
    } catch {
      return false // a file that cannot be read tells nothing here; it is named where it is carried
    }
  })
}
