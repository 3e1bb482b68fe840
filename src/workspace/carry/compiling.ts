import { setFlagsFromString } from 'node:v8'

/** What V8 does by itself in Node 20, where this was measured; of another V8 nothing is set. */
const MEASURED = '11.3.'
const USUAL = { 'max-inlined-bytecode-size-cumulative': 920, 'interrupt-budget': 67_584 }

type Setting = keyof typeof USUAL

/** Code units of a text from which on it is a long one. */
const LONG = 1 << 20
/** How much bytecode is put into one function at most, in bytes. */
const LESS_INLINED = 150
/** How much of a function's bytecode runs, in bytes, before it is asked whether to compile it. */
const LATE = 2_000_000

/**
 * Does work on a text with less inlining, where it is a long one: such a run is over before all that is hot
 * is compiled well, and what is compiled sooner is worth more than what is compiled better.
 */
export function withLessInlining<T>(text: string | undefined, work: () => T): T {
  if ((text?.length ?? 0) < LONG) return work()
  set('max-inlined-bytecode-size-cumulative', LESS_INLINED)
  try {
    return work()
  } finally {
    setBack('max-inlined-bytecode-size-cumulative')
  }
}

/**
 * Does work in which all threads of the process compile only what is very hot: each compiles by itself, and
 * together they would need more of the processor for it than for the work.
 */
export async function withLateCompiling(work: () => Promise<void>): Promise<void> {
  set('interrupt-budget', LATE)
  try {
    await work()
  } finally {
    // V8 keeps compiled code only for the settings that it was compiled with
    setBack('interrupt-budget')
  }
}

function set(name: Setting, value: number): void {
  if (process.versions.v8.startsWith(MEASURED)) setFlagsFromString(`--${name}=${value}`)
}

function setBack(name: Setting): void {
  set(name, USUAL[name])
}
