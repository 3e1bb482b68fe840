import { createReadStream } from 'node:fs'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { ReadEntry } from 'tar'
import { Parser } from 'tar'
import { brokenArchive } from './broken-archive.ts'
import { safePath } from './safe-path.ts'
import type { SourceRemark } from '../../core/facts/release.ts'
import type { Source, SourceEntry } from './source.ts'

/** A tar archive, packed with gzip or not. */
export function tarSource(path: string, packedBytes: number): Source {
  return {
    name: path,
    packedBytes,
    async read(visit, remark) {
      const failed = new AbortController()
      let turn = Promise.resolve()
      const parser = new Parser({
        strict: true,
        onReadEntry(entry) {
          // an entry holds up those behind it until it has been read
          turn = turn.then(async () => {
            const found = failed.signal.aborted ? undefined : entryOf(entry, path, remark)
            if (found !== undefined) await visit(found)
            entry.resume()
          })
          turn.catch((error: unknown) => {
            failed.abort(error)
          })
        },
      })
      try {
        await pipeline(createReadStream(path), parser as unknown as NodeJS.WritableStream, {
          signal: failed.signal,
        }) // Parser is a writable stream in all but its type
        await turn
      } catch (error) {
        throw brokenArchive(
          failed.signal.aborted ? failed.signal.reason : error,
          path,
          'tar archive',
        )
      }
    },
  }
}

/** What is taken of an entry; undefined for folders, and for what is told in a remark. */
function entryOf(
  entry: ReadEntry,
  source: string,
  remark: (remark: SourceRemark) => void,
): SourceEntry | undefined {
  const path = safePath(entry.path, source)
  const mode = (entry.mode ?? 0o644) & 0o777
  switch (entry.type) {
    case 'File':
    case 'OldFile':
    case 'ContiguousFile':
      return { path, mode, content: { kind: 'file', open: () => Readable.from(entry) } }
    case 'SymbolicLink':
      return { path, mode, content: { kind: 'link', to: entry.linkpath ?? '' } }
    case 'Directory':
    case 'GNUDumpDir':
      return undefined
    default:
      remark({
        path,
        code: 'source/not-opened',
        message: `is a ${entry.type === 'Link' ? 'hard link' : 'device or a pipe'}; it is not taken`,
      })
      return undefined
  }
}
