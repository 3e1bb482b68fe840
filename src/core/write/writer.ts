import type { Doc } from '../formats/doc.ts'
import type { Side, Triple } from '../document/sides.ts'

/**
 * Puts a result together from slices of the inputs. Neighbouring slices of one input are joined
 * before they are cut, so a result is a few long pieces.
 */
export class Writer {
  private readonly parts: string[] = []
  private side: Side | -1 = -1
  private start = 0
  private end = 0

  constructor(private readonly docs: Triple<Doc>) {}

  /** Adds `[start, end)` of one input. */
  slice(side: Side, start: number, end: number): void {
    if (start >= end) return
    if (side === this.side && start === this.end) {
      this.end = end
      return
    }
    this.flush()
    this.side = side
    this.start = start
    this.end = end
  }

  /** Adds text that no input holds as it is: a separator, a fitted indentation. */
  made(text: string): void {
    if (text === '') return
    this.flush()
    this.parts.push(text)
  }

  /** Whether a line begins here: at the start of the result, or after a line end. */
  atLineStart(): boolean {
    const last = this.lastCode()
    return last < 0 || last === 10 || last === 13
  }

  private lastCode(): number {
    if (this.side !== -1) return this.docs[this.side].tree.source.charCodeAt(this.end - 1)
    const last = this.parts.at(-1)
    return last === undefined ? -1 : last.charCodeAt(last.length - 1)
  }

  text(): string {
    this.flush()
    return this.parts.join('')
  }

  private flush(): void {
    if (this.side === -1) return
    this.parts.push(this.docs[this.side].tree.source.slice(this.start, this.end))
    this.side = -1
  }
}
