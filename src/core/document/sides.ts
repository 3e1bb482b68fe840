/** The three inputs of a carry, in the order in which parallel arrays hold them. */
export const OLD = 0
export const NEW = 1
export const MINE = 2

export type Side = typeof OLD | typeof NEW | typeof MINE

/** One thing for each input: old, new, mine. */
export type Triple<T> = readonly [T, T, T]

export const SIDES: Triple<Side> = [OLD, NEW, MINE]

/** Each two of the inputs. */
export const PAIRS = [
  [OLD, NEW],
  [OLD, MINE],
  [NEW, MINE],
] as const

/** The name of an input, as options and reports call it. */
export const SIDE_NAMES = ['old', 'new', 'mine'] as const

export function triple<T>(make: (side: Side) => T): [T, T, T] {
  return [make(OLD), make(NEW), make(MINE)]
}
