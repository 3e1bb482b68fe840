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

function isThere(): boolean {
  return spawnSync('tmux', ['-V']).status === 0
}

/** Whether a real terminal can be had: tmux is installed where it lacks and that is possible. */
export function hasTerminal(): boolean {
  if (isThere()) return true
  if (process.getuid?.() === 0) spawnSync('apt-get', ['install', '-y', '-qq', 'tmux'])
  if (isThere()) return true
  console.error(
    '\n*** SKIPPED: the tests in a real terminal need tmux (Debian: apt-get install tmux; macOS: brew install tmux) ***\n',
  )
  return process.env.CI !== undefined // there it is no excuse: the tests run, and fail
}

afterAll(() => {
  spawnSync('tmux', ['-L', SOCKET, 'kill-server'])
})

let count = 0

/** A terminal in which the built program runs. */
export class Terminal {
  private readonly name = `t${++count}`

  constructor(
    folder: string,
    args: readonly string[],
    {
      width = 80,
      height = 24,
      env = {},
    }: { width?: number; height?: number; env?: Record<string, string> } = {},
  ) {
    const call = [process.execPath, PROGRAM, ...args].map((word) => `'${word}'`).join(' ')
    const given = Object.entries(env).map(([name, value]) => `${name}=${value}`)
    // the shell stays when the program has ended, so that its last words can be read
    const line = `env ${given.join(' ')} ${call}; echo "ended with $?"; exec sleep 600`
    const size = ['-x', String(width), '-y', String(height)]
    tmux('new-session', '-d', '-s', this.name, ...size, '-c', folder, 'sh', '-c', line)
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
