import { createWriteStream, writeFileSync } from 'node:fs'
import { pipeline } from 'node:stream/promises'
import { gzipSync } from 'node:zlib'
import { Header } from 'tar'
import yazl from 'yazl'

/** Writes a zip archive of the files. A name that the packer refuses is put in afterwards, byte for byte. */
export async function writeZip(
  path: string,
  files: Record<string, string | Buffer>,
): Promise<void> {
  const zip = new yazl.ZipFile()
  for (const [name, content] of Object.entries(files))
    zip.addBuffer(Buffer.from(content), standIn(name))
  zip.end()
  const chunks: Buffer[] = []
  for await (const chunk of zip.outputStream) chunks.push(Buffer.from(chunk as Uint8Array)) // it has no encoding
  let bytes = Buffer.concat(chunks).toString('latin1')
  for (const name of Object.keys(files)) bytes = bytes.replaceAll(standIn(name), latin1(name))
  writeFileSync(path, Buffer.from(bytes, 'latin1'))
}

function latin1(name: string): string {
  return Buffer.from(name).toString('latin1')
}

/** A name of the same length that every packer takes. */
function standIn(name: string): string {
  const isPlain = !/^[/\\]|^[A-Za-z]:|\.\.|\\/.test(name)
  return isPlain ? name : `${'x'.repeat(Buffer.byteLength(name) - 1)}y`
}

interface TarEntry {
  path: string
  content?: string | Buffer
  type?: 'File' | 'SymbolicLink' | 'Link' | 'CharacterDevice'
  linkpath?: string
}

/** Writes a gzipped tar archive of entries as they are given, however unwise. */
export function writeTar(path: string, entries: readonly TarEntry[]): void {
  const blocks = entries.flatMap(({ path: name, content = '', type = 'File', linkpath = '' }) => {
    const body = Buffer.from(content)
    const header = new Header({
      path: name,
      size: body.length,
      mode: 0o644,
      type,
      linkpath,
      mtime: new Date(0),
    })
    const block = Buffer.alloc(512)
    header.encode(block, 0)
    return [block, body, Buffer.alloc((512 - (body.length % 512)) % 512)]
  })
  writeFileSync(path, gzipSync(Buffer.concat([...blocks, Buffer.alloc(1024)])))
}

/** Writes a zip archive of one file of zeros. */
export async function writeBomb(path: string, bytes: number): Promise<void> {
  const zip = new yazl.ZipFile()
  zip.addBuffer(Buffer.alloc(bytes), 'finds.xml')
  zip.end()
  await pipeline(zip.outputStream, createWriteStream(path))
}
