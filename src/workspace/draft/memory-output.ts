import type { ResultWriter } from '../carry/output.ts'

/** A result that is held in memory: what each file would be. */
export class MemoryOutput implements ResultWriter {
  readonly location = undefined
  readonly files = new Map<string, Uint8Array>()
  readonly modes = new Map<string, number>()

  file(path: string, bytes: Uint8Array, mode?: number): void {
    this.files.set(path, bytes)
    if (mode !== undefined) this.modes.set(path, mode)
  }

  folder(): void {
    // a folder is no file
  }

  link(): void {
    // a link is carried as a whole, and is never made again
  }

  commit(): void {
    // whoever asked takes the files from here
  }

  discard(): void {
    this.files.clear()
  }
}
