import { execFile, spawn } from 'node:child_process'
import type { ChildProcessWithoutNullStreams } from 'node:child_process'
import { Readable } from 'node:stream'
import { promisify } from 'node:util'
import { EXIT, Failure } from '../failure.ts'
import { safePath } from './safe-path.ts'
import type { Source, SourceEntry } from './source.ts'

const run = promisify(execFile)

/** A list of files of a hundred thousand names fits in. */
const MOST_OUTPUT = 256 * 1024 * 1024

/**
 * A revision of a git repository, or of a folder in one: the bytes as they were committed. `git archive`
 * would convert line ends and fill in keywords; the objects themselves are read.
 */
export function gitSource(folder: string, revision: string): Source {
  const name = `${folder}@${revision}`
  return {
    name,
    packedBytes: undefined,
    async read(visit, remark) {
      const commit = (
        await git(folder, ['rev-parse', '--verify', '--end-of-options', `${revision}^{commit}`])
      ).trim()
      const listed = await git(folder, ['ls-tree', '-r', '-z', commit])
      const objects = new ObjectReader(folder)
      try {
        for (const line of listed.split('\0')) {
          const parts = /^(\d+) (\w+) ([0-9a-f]+)\t(.*)$/s.exec(line)
          if (parts === null) continue
          const [, mode = '', type, hash = '', path = ''] = parts
          if (type !== 'blob') {
            const message = 'is another repository inside this one; it is not taken'
            remark({ path, code: 'source/not-opened', message })
            continue
          }
          await visit(await entryOf(objects, safePath(path, name), mode, hash))
        }
      } finally {
        objects.end()
      }
    },
  }
}

async function entryOf(
  objects: ObjectReader,
  path: string,
  mode: string,
  hash: string,
): Promise<SourceEntry> {
  if (mode === '120000') {
    const to = (await objects.read(hash)).toString('utf8')
    return { path, mode: 0o777, content: { kind: 'link', to } }
  }
  const open = async (): Promise<Readable> => Readable.from([await objects.read(hash)])
  return { path, mode: mode === '100755' ? 0o755 : 0o644, content: { kind: 'file', open } }
}

async function git(folder: string, args: readonly string[]): Promise<string> {
  try {
    const { stdout } = await run('git', ['-C', folder, ...args], {
      maxBuffer: MOST_OUTPUT,
      // the words of a failure are looked for in English
      env: { ...process.env, LC_ALL: 'C' },
    })
    return stdout
  } catch (error) {
    throw gitFailure(error, folder)
  }
}

function gitFailure(error: unknown, folder: string): unknown {
  if (!(error instanceof Error)) return error
  if ('code' in error && error.code === 'ENOENT') {
    return new Failure(
      'source/no-git',
      `${folder}@… needs git, which is not installed or not on the PATH`,
      {
        exit: EXIT.wrongCall,
        hint: 'install git, or check the revision out and name its folder',
      },
    )
  }
  const said = 'stderr' in error ? String(error.stderr).trim() : error.message
  const [first = ''] = said.split('\n')
  const known = KNOWN_FAULTS.find(([pattern]) => pattern.test(said))?.[1]
  return new Failure(
    'source/git',
    known?.message(folder) ?? `git cannot read that revision of ${folder}: ${first}`,
    { exit: EXIT.wrongCall, hint: known?.hint ?? NAMES_REVISIONS },
  )
}

const NAMES_REVISIONS = 'git tag and git log name revisions'

/** What git says most often, and the same in words for people. */
const KNOWN_FAULTS: readonly (readonly [
  RegExp,
  { message: (folder: string) => string; hint: string },
])[] = [
  [
    /not a git repository/,
    {
      message: (folder) => `${folder} is no git repository, so it has no revisions`,
      hint: 'name the folder alone, or the folder of the repository before the @',
    },
  ],
  [
    /single revision|unknown revision|bad revision|Not a valid object name/,
    { message: (folder) => `${folder} has no such revision`, hint: NAMES_REVISIONS },
  ],
]

/** Reads objects one after the other through one `git cat-file --batch`. */
class ObjectReader {
  private readonly child: ChildProcessWithoutNullStreams
  private readonly chunks: AsyncIterator<Buffer>
  private known: Buffer = Buffer.alloc(0)

  constructor(folder: string) {
    this.child = spawn('git', ['-C', folder, 'cat-file', '--batch'])
    this.child.on('error', () => undefined) // the output ends, and that is told
    this.child.stdin.on('error', () => undefined)
    this.chunks = this.child.stdout[Symbol.asyncIterator]() as AsyncIterator<Buffer> // no encoding was set
  }

  async read(hash: string): Promise<Buffer> {
    this.child.stdin.write(`${hash}\n`)
    const header = await this.line()
    const size = /^[0-9a-f]+ blob (\d+)$/.exec(header)?.[1]
    if (size === undefined) throw new Error(`git says of an object: ${header}`)
    const content = await this.bytes(Number(size))
    await this.bytes(1)
    return content
  }

  end(): void {
    this.child.stdin.end()
    this.child.kill()
  }

  private async line(): Promise<string> {
    for (;;) {
      const at = this.known.indexOf(10)
      if (at >= 0) return (await this.bytes(at + 1)).toString('utf8', 0, at)
      await this.more()
    }
  }

  private async bytes(count: number): Promise<Buffer> {
    const parts: Buffer[] = []
    let missing = count
    while (missing > 0) {
      if (this.known.length === 0) await this.more()
      const part = this.known.subarray(0, missing)
      parts.push(part)
      missing -= part.length
      this.known = this.known.subarray(part.length)
    }
    return Buffer.concat(parts)
  }

  private async more(): Promise<void> {
    const { value, done } = (await this.chunks.next()) as IteratorResult<Buffer, undefined>
    if (done === true) throw new Error('git ended before all was read')
    this.known = this.known.length === 0 ? value : Buffer.concat([this.known, value])
  }
}
