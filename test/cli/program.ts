import { spawnSync } from 'node:child_process'
import { cpSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { z } from 'zod'
import { carryDocument } from '../../src/show/carry-document.ts'
import { COMPILE_LATER } from '../flags.ts'
import { temporaryFolder } from '../temporary.ts'

export const ROOT = fileURLToPath(new URL('../..', import.meta.url))

/** What Node is given to run the built program; what the program is given comes after it. */
export const PROGRAM = [COMPILE_LATER, join(ROOT, 'bin', 'anagnosis.js')]

/** Files by path; a path that ends in `/` is an empty folder. */
export type Files = Record<string, string | Buffer>

export interface Ran {
  code: number | null
  out: string
  err: string
}

/** A temporary folder in which the built program is run. */
export class Workplace {
  constructor(
    files: Files = {},
    readonly folder = temporaryFolder('test'),
  ) {
    this.write(files)
  }

  write(files: Files): void {
    for (const [path, content] of Object.entries(files)) {
      const location = join(this.folder, path)
      mkdirSync(path.endsWith('/') ? location : dirname(location), { recursive: true })
      if (!path.endsWith('/')) writeFileSync(location, content)
    }
  }

  path(path: string): string {
    return join(this.folder, path)
  }

  read(path: string): string {
    return readFileSync(this.path(path), 'utf8')
  }

  /** Every file below a folder with its text; undefined where there is no such folder. */
  tree(path: string): Record<string, string> | undefined {
    const root = this.path(path)
    const there = statSync(root, { throwIfNoEntry: false })
    if (there === undefined) return undefined
    const names = readdirSync(root, { recursive: true, encoding: 'utf8' }).sort()
    const files = names.filter((name) => statSync(join(root, name)).isFile())
    return Object.fromEntries(
      files.map((name) => [name.replaceAll('\\', '/'), this.read(join(path, name))]),
    )
  }

  run(args: readonly string[], env: Record<string, string> = {}): Ran {
    const { status, stdout, stderr } = spawnSync(process.execPath, [...PROGRAM, ...args], {
      cwd: this.folder,
      encoding: 'utf8',
      maxBuffer: 1 << 28,
      env: { ...process.env, NODE_ENV: 'production', NO_COLOR: '1', COLUMNS: '80', ...env },
    })
    return { code: status, out: stdout, err: stderr }
  }

  /** `carry` on old, new and mine into out. */
  carry(...more: string[]): Ran {
    return this.run(['carry', ...inputs(), ...more])
  }

  /** The same with `--json`: the document, checked against its schema. */
  carryJson(...more: string[]): { code: number | null; document: z.infer<typeof carryDocument> } {
    const { code, out } = this.carry('--json', ...more)
    return { code, document: carryDocument.parse(JSON.parse(out)) }
  }
}

/** Makes places of one kind: the first as it is said, each as a copy of that one. */
export function copiesOf(make: () => Workplace): () => Workplace {
  let first: Workplace | undefined
  return () => {
    first ??= make()
    const place = new Workplace()
    cpSync(first.folder, place.folder, { recursive: true, preserveTimestamps: true })
    return place
  }
}

function inputs(): string[] {
  return ['--old', 'old', '--new', 'new', '--mine', 'mine', '--out', 'out']
}
