import type { Triple } from '../document/sides.ts'
import { MINE, NEW, OLD } from '../document/sides.ts'

/** What became of a file, as reports name it. */
export const OUTCOMES = [
  'same',
  'vanilla',
  'mine',
  'merged',
  'conflict',
  'added',
  'removed',
  'renamed',
  'left-out',
  'unread',
] as const
export type Outcome = (typeof OUTCOMES)[number]

/** Which inputs have the file, and which of those hold the same bytes. */
export interface FilePresence {
  has: Triple<boolean>
  /** Equal bytes; false where one of the two is not there. */
  equal: { oldNew: boolean; oldMine: boolean; newMine: boolean }
}

/** What inputs have at a path, compared. @param isSame whether two that are there are equal */
export function presenceOf<T>(
  contents: Triple<T | undefined>,
  isSame: (a: T | undefined, b: T | undefined) => boolean,
): FilePresence {
  const [old, fresh, mine] = contents
  return {
    has: [old !== undefined, fresh !== undefined, mine !== undefined],
    equal: { oldNew: isSame(old, fresh), oldMine: isSame(old, mine), newMine: isSame(fresh, mine) },
  }
}

/** Whose bytes the result has, where no merge is needed to know it; `none` where it has no such file. */
export type Whole = 'old' | 'new' | 'mine' | 'none'

/**
 * What is known of a file without reading it as its format: nothing is to be told (`settled`), the
 * result is known but the keys are still compared (`compare`), or it must be merged (`merge`), or one
 * side dropped what the other changed (`dropped`).
 */
export type FileFate =
  | { do: 'settled' | 'compare'; outcome: Outcome; whole: Whole }
  | { do: 'merge' }
  | { do: 'dropped'; by: 'vanilla' | 'mine' }

/** The three-way choice on whole files. */
export function fileFate({ has, equal }: FilePresence): FileFate {
  const [old, fresh, mine] = [has[OLD], has[NEW], has[MINE]]
  if (fresh && mine) {
    if (old && equal.oldNew && equal.newMine)
      return { do: 'settled', outcome: 'same', whole: 'mine' }
    if (equal.newMine) return { do: old ? 'compare' : 'settled', outcome: 'mine', whole: 'mine' }
    if (old && equal.oldMine) return { do: 'compare', outcome: 'vanilla', whole: 'new' }
    if (old && equal.oldNew) return { do: 'compare', outcome: 'mine', whole: 'mine' }
    return { do: 'merge' }
  }
  if (fresh && !old) return { do: 'settled', outcome: 'added', whole: 'new' }
  if (mine && !old) return { do: 'settled', outcome: 'mine', whole: 'mine' }
  if (fresh) return equal.oldNew ? removed() : { do: 'dropped', by: 'mine' }
  if (mine) return equal.oldMine ? removed() : { do: 'dropped', by: 'vanilla' }
  return removed()
}

/** What became of a file as a whole, and who did it; undefined where nothing did. */
export function wholeChange({
  has,
  equal,
}: FilePresence):
  { side: 'vanilla' | 'mine' | 'both'; kind: 'added' | 'removed' | 'changed' } | undefined {
  const [old, fresh, mine] = [has[OLD], has[NEW], has[MINE]]
  if (!old) {
    if (!fresh && !mine) return undefined
    return { side: !mine ? 'vanilla' : !fresh ? 'mine' : 'both', kind: 'added' }
  }
  if (!fresh || !mine) return { side: fresh ? 'mine' : mine ? 'vanilla' : 'both', kind: 'removed' }
  if (equal.oldNew && equal.oldMine) return undefined
  return { side: equal.newMine ? 'both' : equal.oldMine ? 'vanilla' : 'mine', kind: 'changed' }
}

function removed(): FileFate {
  return { do: 'settled', outcome: 'removed', whole: 'none' }
}
