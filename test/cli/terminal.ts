import { spawnSync } from 'node:child_process'
import { setTimeout as pause } from 'node:timers/promises'
import { afterAll } from 'vitest'
import { PROGRAM } from './program.ts'

/** A server of tmux for this run alone. */
const SOCKET = `anagnosis-test-${process.pid}`

function tmux(...args: string[]): string {
  const { stdout, stderr, status } = spawnSync('tmux', ['-L', SOCKET, '-f', '/dev/null', ...args], {
    encoding: 'utf8',
  })
  if (status !== 0) throw new Error(`tmux ${args.join(' ')}: ${stderr}`)
  return stdout
}

/** Whether a tool that tests need is here: it is installed where it lacks and that is possible. */
export function hasTool(name: string): boolean {
  const isThere = (): boolean => spawnSync('sh', ['-c', `command -v ${name}`]).status === 0
  if (isThere()) return true
  if (process.getuid?.() === 0) spawnSync('apt-get', ['install', '-y', '-qq', name])
  if (isThere()) return true
  console.error(
    `\n*** SKIPPED: some tests need ${name} (Debian: apt-get install ${name}; macOS: brew install ${name}) ***\n`,
  )
  return process.env.CI !== undefined // there it is no excuse: the tests run, and fail
}

afterAll(() => {
  spawnSync('tmux', ['-L', SOCKET, 'kill-server'])
})

let count = 0

interface Options {
  width?: number
  height?: number
  env?: Record<string, string>
}

/** A terminal in which something runs. */
export class Terminal {
  private readonly name = `t${++count}`

  /** @param line what `sh` is to run */
  constructor(folder: string, line: string, { width = 80, height = 24, env = {} }: Options = {}) {
    const given = Object.entries(env).flatMap(([name, value]) => ['-e', `${name}=${value}`])
    const size = ['-x', String(width), '-y', String(height)]
    tmux('new-session', '-d', '-s', this.name, ...size, ...given, '-c', folder, 'sh', '-c', line)
  }

  /** One in which the built program runs; when it has ended its exit code is said. */
  static of(folder: string, args: readonly string[], options: Options = {}): Terminal {
    const call = [process.execPath, ...PROGRAM, ...args].map((word) => `'${word}'`).join(' ')
    // the shell stays, so that the last words of the program can be read; also where Ctrl-C comes
    // before the program takes keys itself, and is a signal to the shell as well
    return new Terminal(
      folder,
      `trap : INT; ${call}; echo "ended with $?"; exec sleep 600`,
      options,
    )
  }

  /** Presses keys, as tmux names them: `Enter`, `Down`, `a`. */
  press(...keys: string[]): void {
    tmux('send-keys', '-t', this.name, ...keys)
  }

  /** What stands on the screen. @param withColours with the escapes that colour it */
  text(withColours = false): string {
    return tmux('capture-pane', '-p', ...(withColours ? ['-e'] : []), '-t', this.name)
  }

  /** Waits until something stands on the screen. @throws Error with the screen where that takes too long */
  async shows(what: RegExp | string): Promise<string> {
    const wanted =
      typeof what === 'string' ? new RegExp(what.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')) : what
    for (let tries = 0; tries < 200; tries++) {
      const text = this.text()
      if (wanted.test(text)) return text
      await pause(100)
    }
    throw new Error(`${String(wanted)} never stood on the screen:\n${this.text()}`)
  }

  resize(width: number, height: number): void {
    tmux('resize-window', '-t', this.name, '-x', String(width), '-y', String(height))
  }

  /** Closes the window: the program gets a SIGHUP. */
  close(): void {
    tmux('kill-session', '-t', this.name)
  }
}
