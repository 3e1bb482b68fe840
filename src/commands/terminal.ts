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

/** A line on stderr that says how far a run has come; nothing where stderr is no terminal. */
export class Progress {
  private last = 0

  constructor(private readonly stream: NodeJS.WriteStream) {}

  /** @param total how many files there are in all, where that is known */
  readonly update = (done: number, total?: number): void => {
    const now = Date.now()
    const few = total !== undefined && total < 50
    if (!this.stream.isTTY || few || (now - this.last < 100 && done !== total)) return
    this.last = now
    this.stream.write(`\r${total === undefined ? done : `${done} of ${total}`} files`)
  }

  end(): void {
    if (this.last > 0) this.stream.write('\r\x1b[K')
  }
}
