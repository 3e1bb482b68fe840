import { open, stat } from 'node:fs/promises'
import { EXIT, Failure, systemFailure } from '../failure.ts'
import { folderSource } from './folder.ts'
import { gitSource } from './git.ts'
import type { Source } from './source.ts'
import { tarSource } from './tar.ts'
import { zipSource } from './zip.ts'

/** What a call names as a source: a folder, a `.zip`, a `.tar` or `.tar.gz`, or `PATH@REVISION` of a git repository. */
export async function openSource(
  named: string,
  isLeftOut: (path: string) => boolean = () => false,
): Promise<Source> {
  const there = await stat(named).catch(() => undefined)
  if (there?.isDirectory() === true) return folderSource(named, isLeftOut)
  if (there?.isFile() === true) return archiveSource(named, there.size)
  const at = named.lastIndexOf('@')
  if (there === undefined && at > 0) {
    const folder = named.slice(0, at)
    const repository = await stat(folder).catch(() => undefined)
    if (repository?.isDirectory() === true) return gitSource(folder, named.slice(at + 1))
  }
  const missing = Object.assign(new Error(named), { code: 'ENOENT' })
  throw systemFailure(missing, 'Taking vanilla files from', named)
}

/** Whether a file is an archive that is known here. */
export async function isArchive(path: string): Promise<boolean> {
  return packingOf(await firstBytes(path)) !== undefined
}

/** How a file is packed, by its first bytes: what it is called is not relied on. */
function packingOf(start: Buffer): 'zip' | 'tar' | undefined {
  if (start[0] === 0x50 && start[1] === 0x4b) return 'zip'
  const isGzip = start[0] === 0x1f && start[1] === 0x8b
  return isGzip || start.toString('latin1', 257, 262) === 'ustar' ? 'tar' : undefined
}

async function archiveSource(path: string, size: number): Promise<Source> {
  const packing = packingOf(await firstBytes(path))
  if (packing === 'zip') return zipSource(path, size)
  if (packing === 'tar') return tarSource(path, size)
  throw new Failure(
    'source/unknown',
    `${path} is neither a folder nor an archive that is known here`,
    {
      exit: EXIT.unread,
      path,
      hint: 'known are .zip, .tar and .tar.gz; unpack another and name the folder',
    },
  )
}

async function firstBytes(path: string): Promise<Buffer> {
  try {
    const handle = await open(path)
    try {
      const buffer = Buffer.alloc(512)
      const { bytesRead } = await handle.read(buffer, 0, 512, 0)
      return buffer.subarray(0, bytesRead)
    } finally {
      await handle.close()
    }
  } catch (error) {
    throw systemFailure(error, 'Reading', path)
  }
}
