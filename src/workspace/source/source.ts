import type { Readable } from 'node:stream'
import type { SourceRemark } from '../../core/facts/release.ts'

/** Something in a source of vanilla files. Its content is to be read before the next one is asked for. */
export interface SourceEntry {
  /** Relative, with `/`; checked to stay inside. */
  path: string
  /** Permission bits. */
  mode: number
  content: { kind: 'file'; open: () => Promise<Readable> | Readable } | { kind: 'link'; to: string }
}

/** A folder, an archive or a revision that vanilla files are taken from. */
export interface Source {
  /** How it was named, for people. */
  name: string
  /** Bytes it takes as it is, where it is packed; what comes out of it is held to a multiple of that. */
  packedBytes: number | undefined
  /** Gives each entry to `visit`, one after the other. */
  read(
    visit: (entry: SourceEntry) => Promise<void>,
    remark: (remark: SourceRemark) => void,
  ): Promise<void>
}
