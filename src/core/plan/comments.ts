import { Kind } from '../document/kind.ts'
import type { UnitList } from '../document/unit-list.ts'
import type { Doc } from '../formats/doc.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import { pickSide } from '../document/pick.ts'
import { surely } from '../document/surely.ts'

/** The comments that stand directly above a unit's node and belong to it. */
export function ownComments(units: UnitList, unit: number): number[] {
  const { tree } = units
  const comments: number[] = []
  const own = units.own(unit)
  let node = units.node(unit) - 1
  while (node >= 0 && tree.kind(node) === Kind.Comment && tree.start(node) >= own)
    comments.unshift(node--)
  return comments
}

/** The comments that a unit is: a block of comments, or an entry in comments. */
export function unitComments(units: UnitList, unit: number): number[] {
  const comments: number[] = []
  for (let node = units.node(unit); node <= units.last(unit); node++) comments.push(node)
  return comments
}

/** The comments that follow a unit's node on its line. */
export function trailingComments(units: UnitList, unit: number): number[] {
  const { tree } = units
  const comments: number[] = []
  const end = units.end(unit)
  let node = tree.next(units.last(unit))
  while (node < tree.length && tree.kind(node) === Kind.Comment && tree.start(node) < end)
    comments.push(node++)
  return comments
}

/** The comments that stand in a node itself, and in nothing that it holds. */
export function commentsIn(doc: Doc, node: number): number[] {
  return doc.children(node).filter((child) => doc.kind(child) === Kind.Comment)
}

/** All comments inside a node. */
export function commentsInside(doc: Doc, node: number): number[] {
  const comments: number[] = []
  const stop = doc.tree.next(node)
  for (let each = node; each < stop; each++)
    if (doc.kind(each) === Kind.Comment) comments.push(each)
  return comments
}

/** What comments say. */
export function saidBy(doc: Doc, comments: readonly number[]): ReadonlySet<string> {
  return new Set(comments.map((comment) => doc.commentText(comment)))
}

/** The comments that say something else than all that is known. */
export function sayingElse(
  doc: Doc,
  comments: readonly number[],
  known: ReadonlySet<string>,
): number[] {
  return comments.filter((comment) => !known.has(doc.commentText(comment)))
}

/** Comments that old has not, and that new and mine have once each. */
export function commentsOfBoth(docs: Triple<Doc>): ReadonlySet<string> {
  if (!docs[NEW].hasComments || !docs[MINE].hasComments) return new Set()
  const [old, fresh, mine] = triple((side) => docs[side].comments)
  const isOfBoth = (comment: string): boolean =>
    !old.has(comment) && fresh.get(comment) === 1 && mine.get(comment) === 1
  return new Set([...fresh.keys()].filter(isOfBoth))
}

/** Several comments as one text, in the form in which comments are compared. */
export function commentForm(doc: Doc, comments: readonly number[]): string {
  return comments.map((comment) => doc.commentText(comment)).join('\n')
}

/** Whose comments stand, and which of vanilla's are then not in the result. */
export interface PickedComments {
  side: Side
  lost: number[]
  /** Whether both sides rewrote them, differently. */
  areBothRewritten: boolean
}

/**
 * Chooses three-way between stretches of comments. They are never in conflict: where both sides
 * rewrote them, mine's stand and vanilla's are to be quoted. Where the comments are equal, their form
 * (`raw`) is chosen like any other.
 */
export function pickComments(
  docs: Triple<Doc>,
  comments: Triple<readonly number[] | undefined>,
  raw: Triple<string | undefined>,
): PickedComments {
  const forms = triple((side) => {
    const list = comments[side]
    return list === undefined ? undefined : commentForm(docs[side], list)
  })
  const [old = '', fresh, mine] = forms
  if (fresh === mine || fresh === undefined || mine === undefined)
    return { side: pickSide(raw) ?? MINE, lost: [], areBothRewritten: false }
  if (old === mine) return { side: NEW, lost: [], areBothRewritten: false }
  if (old === fresh) return { side: MINE, lost: [], areBothRewritten: false }
  const kept = new Set(surely(comments[MINE]).map((comment) => docs[MINE].commentText(comment)))
  for (const comment of comments[OLD] ?? []) kept.add(docs[OLD].commentText(comment))
  const lost = surely(comments[NEW]).filter((comment) => !kept.has(docs[NEW].commentText(comment)))
  return { side: MINE, lost, areBothRewritten: true }
}
