import { setFlagsFromString } from 'node:v8'

/** Code units of a text from which on V8 is told how to compile. */
const LONG = 1 << 20
/** How much bytecode V8 puts into one function at most, in bytes: less than it does by itself, and that. */
const LESS = 300
const USUAL = 920

/**
 * Does work on a text with less inlining, where it is a long one: such a run is over before all that is hot
 * is compiled well, and what is compiled sooner is worth more than what is compiled better. The flag is
 * set back, since V8 keeps compiled code only for the flags that it was compiled with.
 */
export function withLessInlining<T>(text: string | undefined, work: () => T): T {
  if ((text?.length ?? 0) < LONG) return work()
  setInlining(LESS)
  try {
    return work()
  } finally {
    setInlining(USUAL)
  }
}

function setInlining(bytes: number): void {
  setFlagsFromString(`--max-inlined-bytecode-size-cumulative=${bytes}`)
}
