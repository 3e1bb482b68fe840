import { Transform } from 'node:stream'
import type { Readable } from 'node:stream'
import { text } from 'node:stream/consumers'
import { crc32 } from 'node:zlib'
import type { Entry, ZipFile } from 'yauzl'
import { getFileNameLowLevel, openPromise } from 'yauzl'
import { ArchiveFault, brokenArchive } from './broken-archive.ts'
import { safePath } from './safe-path.ts'
import type { Source, SourceEntry } from './source.ts'

/** The high half of a zip entry's attributes is what Unix knows of the file. */
const TYPE = 0o170000
const LINK = 0o120000
/** More text than this is no path of a link. */
const LONGEST_LINK = 4096

/** A zip archive. What it says of sizes and checksums is held against its content. */
export function zipSource(path: string, packedBytes: number): Source {
  return {
    name: path,
    packedBytes,
    async read(visit) {
      try {
        const zip = await openPromise(path, { decodeStrings: false })
        for await (const entry of zip.eachEntry()) {
          const name = nameOf(entry)
          if (name.endsWith('/')) continue
          await visit(await entryOf(zip, entry, safePath(name, path)))
        }
      } catch (error) {
        throw brokenArchive(error, path, 'zip archive')
      }
    },
  }
}

function nameOf({ generalPurposeBitFlag, fileNameRaw, extraFields }: Entry): string {
  return getFileNameLowLevel(generalPurposeBitFlag, fileNameRaw, extraFields, false)
}

async function entryOf(zip: ZipFile, entry: Entry, path: string): Promise<SourceEntry> {
  const unix = entry.externalFileAttributes >>> 16
  const mode = (unix & 0o777) === 0 ? 0o644 : unix & 0o777
  if ((unix & TYPE) !== LINK)
    return { path, mode, content: { kind: 'file', open: () => checked(zip, entry) } }
  if (entry.uncompressedSize > LONGEST_LINK) throw new ArchiveFault(`the link ${path} is too long`)
  return { path, mode, content: { kind: 'link', to: await text(await checked(zip, entry)) } }
}

/** The content of an entry; an error where its checksum is another than the archive says. */
async function checked(zip: ZipFile, entry: Entry): Promise<Readable> {
  if (entry.isEncrypted()) throw new ArchiveFault(`${nameOf(entry)} is encrypted`)
  const stream = await zip.openReadStreamPromise(entry)
  let sum = 0
  const check = new Transform({
    transform(chunk: Buffer, _, done) {
      sum = crc32(chunk, sum)
      done(null, chunk)
    },
    flush(done) {
      const isRight = sum === entry.crc32
      done(isRight ? null : new ArchiveFault(`${nameOf(entry)} is damaged: its checksum is wrong`))
    },
  })
  stream.on('error', (error) => check.destroy(error))
  return stream.pipe(check)
}
