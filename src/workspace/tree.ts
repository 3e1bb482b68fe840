import type { Dirent } from 'node:fs'
import {
  closeSync,
  fstatSync,
  lstatSync,
  openSync,
  readdirSync,
  readFileSync,
  readlinkSync,
  readSync,
} from 'node:fs'
import { join } from 'node:path'
import { EXIT, Failure, systemFailure } from './failure.ts'

/** Something in a folder: a file, a link (never followed), an empty folder, or a thing that is not opened. */
export interface TreeEntry {
  kind: 'file' | 'link' | 'empty-folder' | 'other'
  /** The path on this disk. */
  location: string
  /** Permission bits, where the disk does not keep them with the file. */
  mode?: number
  /** Where a link leads, where the disk does not keep it as one. */
  to?: string
}

/** Where a link leads. */
export function targetOf({ location, to }: TreeEntry): string {
  return to ?? readlinkSync(location)
}

/** Folders inside a tree that may not be opened, by their path, and why. */
export type ClosedFolders = Map<string, Failure>

/** What is in a folder, by its path there, with `/`. */
export type FileTree = ReadonlyMap<string, TreeEntry>

/**
 * What a folder holds at any depth, by path relative to it, with `/`, in the order of the paths.
 *
 * @param isLeftOut whether a path, of a folder or a file, is passed over
 * @param closed takes in the folders that may not be opened; without it the first ends the reading
 * @throws Failure where a folder may not be opened
 */
export function readTree(
  root: string,
  isLeftOut: (path: string) => boolean = () => false,
  closed?: ClosedFolders,
): Map<string, TreeEntry> {
  const entries = new Map<string, TreeEntry>()
  const waiting = ['']
  for (let folder = waiting.pop(); folder !== undefined; folder = waiting.pop()) {
    const location = join(root, folder)
    const children = listFolder(location, folder, closed)
    if (children.length === 0 && folder !== '' && closed?.has(folder) !== true) {
      entries.set(folder, { kind: 'empty-folder', location })
    }
    for (const child of children) {
      const path = folder === '' ? child.name : `${folder}/${child.name}`
      const at = join(location, child.name)
      if (isLeftOut(path)) continue
      if (child.isDirectory()) waiting.push(path)
      else entries.set(path, { kind: kindOf(child), location: at })
    }
  }
  return new Map([...entries].sort(([a], [b]) => (a < b ? -1 : 1)))
}

function kindOf(child: Dirent): TreeEntry['kind'] {
  if (child.isSymbolicLink()) return 'link'
  return child.isFile() ? 'file' : 'other'
}

/** The permission bits of a file. */
export function modeOf({ location }: TreeEntry): number {
  return lstatSync(location).mode & 0o777
}

/** What a file holds, and its permission bits. */
export interface FileContent {
  bytes: Buffer
  mode: number
}

/** Reads a file's content and permission bits in one go. @throws what the system throws */
export function readContent(location: string): FileContent {
  const handle = openSync(location, 'r')
  try {
    const { size, mode } = fstatSync(handle)
    // with room for one byte more, a read that stops at the size has come to the end
    let bytes = Buffer.allocUnsafe(size + 1)
    let length = 0
    for (;;) {
      const count = readSync(handle, bytes, length, bytes.length - length, null)
      length += count
      if (count === 0 || length === size)
        return { bytes: bytes.subarray(0, length), mode: mode & 0o777 }
      if (length === bytes.length) bytes = Buffer.concat([bytes], length * 2)
    }
  } finally {
    closeSync(handle)
  }
}

function listFolder(location: string, path: string, closed: ClosedFolders | undefined): Dirent[] {
  try {
    return readdirSync(location, { withFileTypes: true })
  } catch (error) {
    const failure = systemFailure(error, 'Reading the folder', location)
    if (closed === undefined || path === '' || !(failure instanceof Failure)) throw failure
    closed.set(path, failure)
    return []
  }
}

/** The content of a file on disk. @throws Failure in words where the system does not give it */
export function readBytes(location: string): Buffer {
  try {
    return readFileSync(location)
  } catch (error) {
    throw readingFailure(error, location)
  }
}

/** A file in the store, by its place: two digits of its SHA-256, then the rest. */
const STORED = /[\\/]objects[\\/][0-9a-f]{2}[\\/][0-9a-f]{62}$/

/** Why a file cannot be read: of what is gone from the store nobody wrote the path. */
export function readingFailure(error: unknown, location: string): unknown {
  const isGone = error instanceof Error && 'code' in error && error.code === 'ENOENT'
  if (!isGone || !STORED.test(location)) return systemFailure(error, 'Reading', location)
  return new Failure('vanilla/damaged', `a file of a vanilla in the store is gone: ${location}`, {
    exit: EXIT.unread,
    path: location,
    hint: 'anagnosis vanilla verify says of which; remove that vanilla, and take it in again',
  })
}
