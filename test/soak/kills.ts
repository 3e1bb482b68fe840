import { spawn, spawnSync } from 'node:child_process'
import { cpSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync } from 'node:fs'
import { rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join, resolve } from 'node:path'
import { COMPILE_LATER } from '../flags.ts'

const PROGRAM = [COMPILE_LATER, resolve('bin/anagnosis.js')]
const FILES = 300

interface Run {
  status: number | null
  out: string
}

function anagnosis(cwd: string, ...args: string[]): Run {
  const { status, stdout, stderr } = spawnSync(process.execPath, [...PROGRAM, ...args], {
    cwd,
    encoding: 'utf8',
  })
  return { status, out: stdout + stderr }
}

/** The content and the modes of all files of a folder. */
function treeOf(root: string): string {
  const names = readdirSync(root, { recursive: true, encoding: 'utf8' }).sort()
  const shown = names.map((name) => {
    const place = join(root, name)
    const { mode } = statSync(place)
    return [name, mode, statSync(place).isFile() ? readFileSync(place, 'latin1') : null]
  })
  return JSON.stringify(shown)
}

function write(root: string, files: Record<string, string>): void {
  for (const [path, text] of Object.entries(files)) {
    mkdirSync(dirname(join(root, path)), { recursive: true })
    writeFileSync(join(root, path), text)
  }
}

/** A workspace of some hundred files whose draft is ready to be put live. */
function ready(root: string): void {
  for (let i = 0; i < FILES; i++) {
    const path = `d${i % 7}/f${i}.ini`
    write(root, {
      [`v1/${path}`]: `a = ${i}\n`,
      [`v2/${path}`]: `a = ${i + (i % 2)}\nb = 1\n`,
      [`live/${path}`]: `a = ${i}\n; ours\n`,
    })
  }
  const gone = { 'v1/old/y.ini': 'y = 1\n', 'live/old/y.ini': 'y = 1\n' }
  write(root, { ...gone, 'v2/new/x.ini': 'x = 1\n', 'live/saves/one.sav': 's' })
  anagnosis(root, 'setup', '--variant', 'h', '--folder', 'live', '--vanilla', '1', '--source', 'v1')
  anagnosis(root, 'vanilla', 'add', '2', 'v2')
  anagnosis(root, 'carry', 'h', '--to', '2', '--yes')
}

/** Runs a delivery that is killed after so many milliseconds, where it has not ended before. */
async function killedDelivery(root: string, milliseconds: number): Promise<void> {
  const child = spawn(process.execPath, [...PROGRAM, 'deliver', 'h', '--yes'], {
    cwd: root,
    stdio: 'ignore',
  })
  await new Promise<void>((ended) => {
    const timer = setTimeout(() => child.kill('SIGKILL'), milliseconds)
    child.on('exit', () => {
      clearTimeout(timer)
      ended()
    })
  })
}

/** Deliveries of the built program that are killed at random moments: all is old, or all is new, afterwards. */
export class Kills {
  private readonly template = mkdtempSync(join(tmpdir(), 'anagnosis-kills-'))
  private readonly place = mkdtempSync(join(tmpdir(), 'anagnosis-kills-'))
  private readonly states: Record<'old' | 'new', string>
  private readonly longest: number
  readonly counts = { old: 0, new: 0, unfinished: 0 }

  constructor() {
    ready(this.template)
    const old = this.stateOf(this.template)
    this.reset()
    const start = performance.now()
    anagnosis(this.place, 'deliver', 'h', '--yes')
    this.longest = 1.2 * (performance.now() - start)
    this.states = { old, new: this.stateOf(this.place) }
  }

  /** Kills one delivery. @returns what is wrong afterwards, if anything */
  async kill(next: () => number): Promise<string | undefined> {
    this.reset()
    await killedDelivery(this.place, this.longest * (0.25 + 0.75 * next()))
    const isUnfinished = existsSync(join(this.place, '.anagnosis/journals/h.json'))
    const how = next() < 0.5 ? '--undo' : '--finish'
    if (isUnfinished) {
      this.counts.unfinished++
      if (!anagnosis(this.place, 'overview').out.includes('did not come to its end'))
        return 'overview is silent'
      const { status, out } = anagnosis(this.place, 'deliver', 'h', how)
      if (status !== 0) return `${how} ended with ${status}: ${out}`
    }
    const now = this.stateOf(this.place)
    const is = now === this.states.old ? 'old' : now === this.states.new ? 'new' : undefined
    const wanted = isUnfinished ? (how === '--undo' ? 'old' : 'new') : is
    if (is === undefined || is !== wanted) return `${is ?? 'neither old nor new'} after ${how}`
    this.counts[is]++
    return undefined
  }

  end(): void {
    for (const folder of [this.template, this.place])
      rmSync(folder, { recursive: true, force: true })
  }

  private reset(): void {
    rmSync(this.place, { recursive: true, force: true })
    cpSync(this.template, this.place, { recursive: true, preserveTimestamps: true })
  }

  private stateOf(root: string): string {
    return treeOf(join(root, 'live')) + readFileSync(join(root, 'anagnosis.yaml'), 'utf8')
  }
}
