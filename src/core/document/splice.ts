import type { Span } from './problem.ts'

/** A stretch of a source, and what stands in its place. */
export interface Replaced extends Span {
  text: string
  /** Told where the text stands: an offset in UTF-16 code units. */
  standsAt?: (offset: number) => void
}

/** A source in which stretches were replaced, and where an offset of it stands in the one that it was. */
export interface Spliced {
  text: string
  offsetOf: (offset: number) => number
}

/** Such a stretch, and where its text stands: an offset in UTF-16 code units. */
interface Put extends Replaced {
  at: number
}

/** Replaces stretches of a source that do not overlap; of several at one offset the first comes first. */
export function splice(source: string, parts: readonly Replaced[]): Spliced {
  const put: Put[] = []
  let [text, at] = ['', 0]
  for (const part of [...parts].sort((a, b) => a.start - b.start)) {
    text += source.slice(at, part.start)
    part.standsAt?.(text.length)
    put.push({ ...part, at: text.length })
    text += part.text
    at = part.end
  }
  return { text: text + source.slice(at), offsetOf: (offset) => offsetBefore(put, offset) }
}

/** Where an offset stood before stretches were replaced: inside of one as far behind its start, as far as it went. */
function offsetBefore(put: readonly Put[], offset: number): number {
  const last = put.findLast(({ at }) => at <= offset)
  if (last === undefined) return offset
  const inside = offset - last.at
  const behind = inside - last.text.length
  return behind < 0 ? Math.min(last.start + inside, last.end) : last.end + behind
}
