/** How wide output is made: the terminal's width within what reads well, 80 where there is none. */
export function outputWidth(stream: NodeJS.WriteStream): number {
  const asked = Number(process.env.COLUMNS)
  const columns = stream.isTTY ? stream.columns : asked > 0 ? asked : 80
  return Math.max(40, Math.min(140, columns))
}

/** 0 none, 1 sixteen, 2 256, 3 all colours: none without a terminal, with NO_COLOR or on a dumb one. */
export function colourLevel(stream: NodeJS.WriteStream): 0 | 1 | 2 | 3 {
  const { NO_COLOR, FORCE_COLOR, TERM, COLORTERM } = process.env
  if (NO_COLOR !== undefined && NO_COLOR !== '') return 0
  if (FORCE_COLOR !== undefined && FORCE_COLOR !== '0') return 3
  if (!stream.isTTY || TERM === 'dumb') return 0
  if (COLORTERM === 'truecolor' || COLORTERM === '24bit' || process.platform === 'win32') return 3
  return TERM?.includes('256') === true ? 2 : 1
}

/** From so many milliseconds on a run says what it does. */
const QUIET_FOR = 500
const BETWEEN = 100

/** One line on stderr that says what a run does and how far it has come; nothing where stderr is no terminal. */
export class Progress {
  private readonly begin = Date.now()
  private line = ''
  private last = 0
  private timer: NodeJS.Timeout | undefined

  constructor(private readonly stream: NodeJS.WriteStream) {}

  /** Says what is done, from half a second on. */
  doing(what: string): void {
    this.line = what
    if (!this.stream.isTTY) return
    this.timer = setTimeout(() => {
      this.show()
    }, QUIET_FOR).unref()
  }

  /** @param total how many files there are in all, where that is known */
  readonly update = (done: number, total?: number): void => {
    this.line = `${total === undefined ? done : `${done} of ${total}`} files`
    const now = Date.now()
    const isTime = now - this.begin >= QUIET_FOR && now - this.last >= BETWEEN
    if (isTime || (this.last > 0 && done === total)) this.show()
  }

  private show(): void {
    if (!this.stream.isTTY) return
    this.last = Date.now()
    this.stream.write(`\r\x1b[K${this.line}`)
  }

  /** Takes the line away. */
  end(): void {
    clearTimeout(this.timer)
    if (this.last > 0) this.stream.write('\r\x1b[K')
    this.last = 0
  }
}
