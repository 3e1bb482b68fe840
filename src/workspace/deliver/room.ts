import { statfsSync } from 'node:fs'

/** How many bytes can be written where a folder is; undefined where the system does not say. */
export function roomAt(folder: string): number | undefined {
  try {
    const { bavail, bsize } = statfsSync(folder)
    return bavail * bsize
  } catch {
    return undefined // then the writing itself tells
  }
}
