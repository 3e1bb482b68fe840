import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import type { TreeEntry } from '../tree.ts'
import { targetOf } from '../tree.ts'

/** SHA-256 of bytes, in hex. */
export function hashOf(bytes: Uint8Array): string {
  return createHash('sha256').update(bytes).digest('hex')
}

/** SHA-256 of a file, in hex, or where a link leads, behind `link:`; null where there is none, or none that may be opened. */
export function hashOfFile(entry: TreeEntry | undefined): string | null {
  if (entry?.kind === 'link') return `link:${targetOf(entry)}`
  if (entry?.kind !== 'file') return null
  try {
    return hashOf(readFileSync(entry.location))
  } catch {
    return null // it is named where it is carried
  }
}
