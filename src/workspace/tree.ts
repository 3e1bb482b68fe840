import type { Dirent } from 'node:fs'
import { lstatSync, readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { systemFailure } from './failure.ts'

/** Something in a folder: a file, a link (never followed), an empty folder, or a thing that is not opened. */
export interface TreeEntry {
  kind: 'file' | 'link' | 'empty-folder' | 'other'
  /** The path on this disk. */
  location: string
  /** Permission bits of a file. */
  mode: number
}

/**
 * What a folder holds at any depth, by path relative to it, with `/`, in the order of the paths.
 *
 * @param isLeftOut whether a path, of a folder or a file, is passed over
 */
export function readTree(
  root: string,
  isLeftOut: (path: string) => boolean = () => false,
): Map<string, TreeEntry> {
  const entries = new Map<string, TreeEntry>()
  const waiting = ['']
  for (let folder = waiting.pop(); folder !== undefined; folder = waiting.pop()) {
    const location = join(root, folder)
    const children = listFolder(location)
    if (children.length === 0 && folder !== '') {
      entries.set(folder, { kind: 'empty-folder', location, mode: 0 })
    }
    for (const child of children) {
      const path = folder === '' ? child.name : `${folder}/${child.name}`
      const at = join(location, child.name)
      if (isLeftOut(path)) continue
      if (child.isDirectory()) waiting.push(path)
      else if (child.isSymbolicLink()) entries.set(path, { kind: 'link', location: at, mode: 0 })
      else if (child.isFile())
        entries.set(path, { kind: 'file', location: at, mode: lstatSync(at).mode & 0o777 })
      else entries.set(path, { kind: 'other', location: at, mode: 0 })
    }
  }
  return new Map([...entries].sort(([a], [b]) => (a < b ? -1 : 1)))
}

function listFolder(location: string): Dirent[] {
  try {
    return readdirSync(location, { withFileTypes: true })
  } catch (error) {
    throw systemFailure(error, 'Reading the folder', location)
  }
}

/** The content of a file on disk. @throws Failure in words where the system does not give it */
export function readBytes(location: string): Buffer {
  try {
    return readFileSync(location)
  } catch (error) {
    throw systemFailure(error, 'Reading', location)
  }
}
