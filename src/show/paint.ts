import { Ansis } from 'ansis'

/** Colours tell who: vanilla, mine, what is open. Each goes with a word, so that none is needed to read. */
export interface Paint {
  vanilla(text: string): string
  mine(text: string): string
  open(text: string): string
  quiet(text: string): string
  strong(text: string): string
}

const same = (text: string): string => text

export const PLAIN: Paint = { vanilla: same, mine: same, open: same, quiet: same, strong: same }

/**
 * Blue, ochre and rose of one lightness: each has a contrast of 4.5 to white and to black (WCAG AA),
 * and they stay apart for eyes that do not tell red from green.
 *
 * @param level of colour that the terminal has, as ansis counts: 0 none, 1 sixteen, 2 256, 3 all
 */
export function colourPaint(level: 0 | 1 | 2 | 3): Paint {
  if (level === 0) return PLAIN
  const ansis = new Ansis(level)
  return {
    vanilla: ansis.hex('#2677ce'),
    mine: ansis.hex('#b0601c'),
    open: ansis.hex('#c2477f'),
    quiet: ansis.dim,
    strong: ansis.bold,
  }
}
