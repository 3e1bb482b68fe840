import { isLineEnd } from '../document/characters.ts'
import { Kind } from '../document/kind.ts'
import type { LineMap } from '../document/line-map.ts'
import type { Triple } from '../document/sides.ts'
import type { Tree } from '../document/tree.ts'
import type { UnitList } from '../document/unit-list.ts'
import { firstContent } from '../document/unit-list.ts'

/** How many nodes are looked at to learn a document's indentation. */
const SAMPLE = 400

/** How text is re-indented on its way from one document's form into another's. */
export interface Fit {
  /** The indentation of the text where it comes from, and one step of nesting there. */
  from: string
  fromStep: string
  /** The same where it goes. */
  to: string
  toStep: string
}

/** How text of each document is re-indented; undefined where it fits as it is. */
export type Fits = Triple<Fit | undefined>

export const NOTHING_FITTED: Fits = [undefined, undefined, undefined]

/** So far back the start of a line is looked for in the text itself; a longer line is looked up. */
const NEAR = 2000

/** The blanks that begin the line on which an offset stands. */
export function lineIndent(source: string, lines: LineMap, offset: number): string {
  let start = offset
  while (start > 0 && offset - start < NEAR && !isLineEnd(source.charCodeAt(start - 1))) start--
  if (offset - start === NEAR) start = lines.lineStart(offset)
  let end = start
  while (end < offset && (source.charCodeAt(end) === 32 || source.charCodeAt(end) === 9)) end++
  return source.slice(start, end)
}

/**
 * The indentation that most of the first live entries have that begin a line, or most comments where no such entry
 * does; undefined where nothing does.
 */
export function listIndent(units: UnitList): string | undefined {
  const ofEntries = new Map<string, number>()
  const ofComments = new Map<string, number>()
  for (let unit = 0; unit < units.length && unit < 16; unit++) {
    if (!units.startsLine(unit)) continue
    const counts = units.isComment(unit) || units.isDormant(unit) ? ofComments : ofEntries
    const indent = units.indent(unit)
    counts.set(indent, (counts.get(indent) ?? 0) + 1)
  }
  return mostFrequent(ofEntries) ?? mostFrequent(ofComments)
}

/** What one level of nesting adds to the indentation in most of a document; undefined where nothing is nested. */
export function indentStep(tree: Tree, lines: LineMap): string | undefined {
  const counts = new Map<string, number>()
  for (let node = 1; node < tree.length && node < SAMPLE; node++) {
    const first = firstContent(tree, node)
    if (first >= tree.next(node)) continue
    const outer = lineIndent(tree.source, lines, tree.start(node))
    const inner = lineIndent(tree.source, lines, tree.start(first))
    if (inner.length > outer.length && inner.startsWith(outer)) {
      const step = inner.slice(outer.length)
      counts.set(step, (counts.get(step) ?? 0) + 1)
    }
  }
  return mostFrequent(counts)
}

function mostFrequent(counts: ReadonlyMap<string, number>): string | undefined {
  let best: string | undefined
  let most = 0
  for (const [value, count] of counts) {
    if (count > most) {
      most = count
      best = value
    }
  }
  return best
}

/** An indentation of the one form in the other. */
export function fitIndent(indent: string, fit: Fit): string {
  if (!indent.startsWith(fit.from)) return indent
  let rest = indent.slice(fit.from.length)
  let steps = ''
  while (fit.fromStep !== '' && rest.startsWith(fit.fromStep)) {
    steps += fit.toStep
    rest = rest.slice(fit.fromStep.length)
  }
  return fit.to + steps + rest
}

const LINE_START = /(\r\n|\r|\n|^)([ \t]*)/g

/**
 * A stretch of a document with its lines re-indented. The inside of texts, values and comments that
 * span lines stays as it is, and so do blank lines.
 *
 * @param whole whether the stretch begins at the start of a line
 */
export function fitText(tree: Tree, start: number, end: number, fit: Fit, whole: boolean): string {
  const { source } = tree
  let result = ''
  let at = start
  LINE_START.lastIndex = 0
  const text = source.slice(start, end)
  for (const match of text.matchAll(LINE_START)) {
    const [all, lineEnd = '', indent = ''] = match
    if (lineEnd === '' && !whole) continue
    const offset = start + match.index
    const after = offset + all.length
    const isBlankLine = after < source.length && /[\r\n]/.test(source.charAt(after))
    if (isBlankLine || insideLeaf(tree, offset + lineEnd.length)) continue
    result += source.slice(at, offset) + lineEnd + fitIndent(indent, fit)
    at = after
  }
  return result + source.slice(at, end)
}

/** Whether an offset lies within a leaf: a text, a value, a comment that goes on over lines. */
function insideLeaf(tree: Tree, offset: number): boolean {
  // the last node in document order that starts before the offset
  const node = tree.lastBefore(offset)
  if (node < 0 || offset >= tree.end(node)) return false
  switch (tree.kind(node)) {
    case Kind.Text:
    case Kind.Comment:
    case Kind.Scalar:
    case Kind.Instruction:
      return true
    case Kind.Attribute:
    case Kind.Property:
      return offset > tree.bodyStart(node)
    default:
      return false
  }
}
