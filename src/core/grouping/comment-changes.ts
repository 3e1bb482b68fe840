import { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'
import { diff } from '../likeness/diff.ts'

/** A comment that came, went, or says something else. */
export interface CommentChange {
  /** Its text without its marks; null where there is none. */
  old: string | null
  new: string | null
  /** Its line in new, in old where it went; from 1. */
  line: number
}

/**
 * The comments in which two documents differ, in the order of new: those that stand where old has others
 * say something else, all others came or went.
 */
export function commentChanges(old: Doc, fresh: Doc): CommentChange[] {
  const [before, after] = [commentsOf(old), commentsOf(fresh)]
  const hunks = diff(
    before.map(({ text }) => text),
    after.map(({ text }) => text),
  )
  const moved = movedTexts(before, after)
  return hunks.flatMap(({ aStart, aEnd, bStart, bEnd }) => {
    const gone = before.slice(aStart, aEnd).filter(({ text }) => !moved.has(text))
    const come = after.slice(bStart, bEnd).filter(({ text }) => !moved.has(text))
    const rows = Math.max(gone.length, come.length)
    return Array.from({ length: rows }, (_, i): CommentChange => {
      const [was, is] = [gone[i], come[i]]
      const line =
        is === undefined ? old.lines.at(was?.start ?? 0).line : fresh.lines.at(is.start).line
      return { old: was?.text ?? null, new: is?.text ?? null, line }
    })
  })
}

interface Comment {
  text: string
  start: number
}

function commentsOf(doc: Doc): Comment[] {
  const comments: Comment[] = []
  const { tree } = doc
  for (let node = 1; node < tree.length; node++) {
    if (tree.kind(node) !== Kind.Comment) continue
    comments.push({ text: doc.commentText(node), start: tree.start(node) })
  }
  return comments
}

/** Texts that both have as often: they stand elsewhere, and say the same. */
function movedTexts(before: readonly Comment[], after: readonly Comment[]): Set<string> {
  const counts = new Map<string, number>()
  for (const { text } of before) counts.set(text, (counts.get(text) ?? 0) + 1)
  for (const { text } of after) counts.set(text, (counts.get(text) ?? 0) - 1)
  return new Set([...counts].filter(([, count]) => count === 0).map(([text]) => text))
}
