import type { Readable } from 'node:stream'
import type { Disk } from '../io/disk.ts'

/** What a parcel holds: files that are copied, and texts of its own. */
export interface ParcelContent {
  files: readonly { path: string; location: string }[]
  texts: readonly { path: string; text: string }[]
}

/** Writes a parcel as a new zip archive. @throws what the disk throws */
export async function writeZip(
  place: string,
  { files, texts }: ParcelContent,
  disk: Disk,
): Promise<void> {
  // few runs make an archive
  const { ZipFile } = await import('yazl')
  const zip = new ZipFile()
  const archive = zip.outputStream as Readable
  zip.on('error', (error: Error) => archive.destroy(error)) // a file that may not be read
  for (const { path, location } of files) zip.addFile(location, path)
  for (const { path, text } of texts) zip.addBuffer(Buffer.from(text), path)
  zip.end()
  const out = await disk.openNew(place)
  try {
    for await (const chunk of archive) await out.write(chunk as Buffer)
  } finally {
    await out.close()
  }
}
