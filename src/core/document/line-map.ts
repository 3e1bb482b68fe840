/** A place for people: line and column, both from 1; the column counts UTF-16 code units. */
export interface Position {
  line: number
  column: number
}

/** Turns offsets of a text into lines and columns, for display only. LF, CRLF and lone CR end a line. */
export class LineMap {
  private readonly source: string
  private starts: number[] | undefined

  constructor(source: string) {
    this.source = source
  }

  /** The line and column of an offset. */
  at(offset: number): Position {
    const starts = this.lineStarts()
    let low = 0
    let high = starts.length - 1
    while (low < high) {
      const middle = (low + high + 1) >> 1
      if ((starts[middle] ?? 0) <= offset) low = middle
      else high = middle - 1
    }
    return { line: low + 1, column: offset - (starts[low] ?? 0) + 1 }
  }

  /** The offset at which the line of an offset starts. */
  lineStart(offset: number): number {
    return this.lineStarts()[this.at(offset).line - 1] ?? 0
  }

  /** The text of a line (from 1) without its line end; empty where there is no such line. */
  text(line: number): string {
    const starts = this.lineStarts()
    const start = starts[line - 1]
    if (start === undefined) return ''
    return this.source.slice(start, starts[line] ?? this.source.length).replace(/[\r\n]+$/, '')
  }

  private lineStarts(): number[] {
    if (this.starts !== undefined) return this.starts
    this.starts = this.source.includes('\r')
      ? startsByPattern(this.source)
      : startsByLf(this.source)
    return this.starts
  }
}

function startsByLf(source: string): number[] {
  const starts = [0]
  for (let at = source.indexOf('\n'); at >= 0; at = source.indexOf('\n', at + 1))
    starts.push(at + 1)
  return starts
}

function startsByPattern(source: string): number[] {
  const starts = [0]
  const lineEnd = /\r\n|\r|\n/g
  while (lineEnd.exec(source) !== null) starts.push(lineEnd.lastIndex)
  return starts
}
