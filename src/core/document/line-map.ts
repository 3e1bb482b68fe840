import { CR, isLineEnd, LF } from './characters.ts'

/** A place for people: line and column, both from 1; the column counts UTF-16 code units. */
export interface Position {
  line: number
  column: number
}

/** So many code units lie between two offsets whose lines are remembered. */
const STRETCH = 4096

/** Turns offsets of a text into lines and columns, for display only. LF, CRLF and lone CR end a line. */
export class LineMap {
  private readonly source: string
  /** How many lines end before each stretch of the text, and where its first line starts; as far as was asked. */
  private readonly ends: number[] = [0]
  private readonly starts: number[] = [0]
  private readonly hasCr: boolean
  /** The first LF that has not been counted: found natively, which is faster than to look at each code unit. */
  private nextLf: number

  constructor(source: string) {
    this.source = source
    this.hasCr = source.includes('\r')
    this.nextLf = this.hasCr ? Infinity : orNever(source.indexOf('\n'))
  }

  /** The line and column of an offset. */
  at(offset: number): Position {
    const stretch = this.stretchOf(offset)
    const line = (this.ends[stretch] ?? 0) + this.count(stretch * STRETCH, offset) + 1
    return { line, column: offset - this.lineStart(offset) + 1 }
  }

  /** The offset at which the line of an offset starts. */
  lineStart(offset: number): number {
    const stretch = this.stretchOf(offset)
    return this.lastStart(stretch * STRETCH, offset) ?? this.starts[stretch] ?? 0
  }

  /** The text of the line of an offset, without its line end. */
  textAt(offset: number): string {
    const { source } = this
    let end = offset
    while (end < source.length && !isLineEnd(source.charCodeAt(end))) end++
    return source.slice(this.lineStart(offset), end).replace(/[\r\n]+$/, '')
  }

  /** The stretch of an offset; what stands before it has been counted. */
  private stretchOf(offset: number): number {
    const stretch = Math.floor(offset / STRETCH)
    while (this.ends.length <= stretch) this.nextStretch()
    return stretch
  }

  private nextStretch(): void {
    const last = this.ends.length - 1
    const [from, to] = [last * STRETCH, (last + 1) * STRETCH]
    let [count, start] = [this.ends[last] ?? 0, this.starts[last] ?? 0]
    if (this.hasCr) {
      count += this.count(from, to)
      start = this.lastStart(from, to) ?? start
    }
    while (this.nextLf < to) {
      count++
      start = this.nextLf + 1
      this.nextLf = orNever(this.source.indexOf('\n', start))
    }
    this.ends.push(count)
    this.starts.push(start)
  }

  /** The last offset in `(from, to]` at which a line starts. */
  private lastStart(from: number, to: number): number | undefined {
    for (let at = to; at > from; at--) if (this.isEnd(at - 1)) return at
    return undefined
  }

  /** How many lines end at a code unit in `[from, to)`. */
  private count(from: number, to: number): number {
    const { source } = this
    const stop = Math.min(to, source.length)
    let count = 0
    for (let at = from; at < stop; at++) {
      const code = source.charCodeAt(at)
      if (code === LF || (code === CR && this.isEnd(at))) count++
    }
    return count
  }

  /** Whether a code unit is the last one of a line. */
  private isEnd(at: number): boolean {
    const code = this.source.charCodeAt(at)
    if (code !== CR) return code === LF
    return at + 1 >= this.source.length || this.source.charCodeAt(at + 1) !== LF
  }
}

function orNever(found: number): number {
  return found < 0 ? Infinity : found
}
