import * as fs from 'node:fs'
import {
  copyFile,
  cp,
  mkdir,
  mkdtemp,
  open,
  rename,
  rm,
  symlink,
  utimes,
  writeFile,
} from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/** A new file that is written piece by piece. */
export interface OpenFile {
  write(bytes: Uint8Array): Promise<void>
  close(): Promise<void>
}

/** Node's own calls by which results are written: one after the other, since there may be thousands of files. */
export type DiskCalls = Pick<
  typeof fs,
  | 'mkdirSync'
  | 'openSync'
  | 'writeSync'
  | 'fsyncSync'
  | 'fchmodSync'
  | 'futimesSync'
  | 'rmdirSync'
  | 'closeSync'
  | 'renameSync'
  | 'rmSync'
  | 'symlinkSync'
  | 'lstatSync'
  | 'readdirSync'
>

/**
 * The calls by which the program changes what is on a disk: no other module makes one. A test can put a disk
 * in place whose calls fail.
 */
export interface Disk extends DiskCalls {
  /** Makes a folder, and those around it. */
  makeFolder(path: string): Promise<void>
  /** Makes a folder of a name of its own among the system's temporary ones; gives its path. */
  makeTemporary(prefix: string): Promise<string>
  /** Writes a new file. */
  write(path: string, bytes: Uint8Array): Promise<void>
  /** Opens a file that is not there yet. */
  openNew(path: string): Promise<OpenFile>
  /** Writes a file whole or not at all, and flushes it. */
  writeWhole(path: string, content: string | Uint8Array): Promise<void>
  copyFile(from: string, to: string): Promise<void>
  /** Copies all that is in a folder. */
  copyFolder(from: string, to: string): Promise<void>
  /** Makes a link at `path` that leads to `to`. */
  link(to: string, path: string): Promise<void>
  setTimes(path: string, accessed: Date, modified: Date): Promise<void>
  rename(from: string, to: string): Promise<void>
  /** Removes a file or a folder with all that is in it, where it is there. */
  remove(path: string): Promise<void>
}

/** The disk that there is. */
export const DISK: Disk = {
  ...fs,
  async makeFolder(path) {
    await mkdir(path, { recursive: true })
  },
  makeTemporary: (prefix) => mkdtemp(join(tmpdir(), prefix)),
  write: (path, bytes) => writeFile(path, bytes),
  async openNew(path) {
    const file = await open(path, 'wx')
    return { write: (bytes) => file.writeFile(bytes), close: () => file.close() }
  },
  async writeWhole(path, content) {
    // few runs write such a file, and this is loaded by all
    const { default: writeFileAtomic } = await import('write-file-atomic')
    await writeFileAtomic(path, typeof content === 'string' ? content : Buffer.from(content))
  },
  copyFile: (from, to) => copyFile(from, to),
  copyFolder: (from, to) => cp(from, to, { recursive: true }),
  link: (to, path) => symlink(to, path),
  setTimes: (path, accessed, modified) => utimes(path, accessed, modified),
  rename: (from, to) => rename(from, to),
  remove: (path) => rm(path, { recursive: true, force: true }),
}
