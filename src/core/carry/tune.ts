import { Kind } from '../document/kind.ts'
import { lineEndsOf, toLineEnds } from '../document/line-ends.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'
import type { Doc } from '../formats/doc.ts'
import type { Nodes } from '../plan/telling.ts'
import type { Change, Conflict } from '../report/ledger.ts'
import type { CarriedText } from './carry-text.ts'
import { carryText } from './carry-text.ts'
import type { CarryOptions, ReadDocuments } from './plan-texts.ts'
import { sourceRegion } from './sources-at.ts'
import type { Remembered, StoredValues } from '../report/remembered.ts'

/** A value that is set at a key which is not in question. */
export interface Tune {
  decision: Remembered
  /** What the key names in each document. */
  nodes: Nodes
  /** What stands there in each. */
  values: StoredValues
  by: string
}

interface Tuning {
  texts: Triple<string | undefined>
  /** With what was decided for conflicts. */
  options: CarryOptions
  planned: ReadDocuments
  tunes: readonly Tune[]
}

interface Refused {
  decision: Remembered
  why: string
}

/** A piece of an input that is written anew. */
interface Edit {
  tune: Tune
  side: Side
  start: number
  end: number
  text: string
}

/**
 * Carries texts in which values are set: each is written into the input that the result takes the key from, as
 * if the operator had edited it there, and stands against what vanilla did. A value that would change which entry is
 * which, or anything at another key, is refused.
 */
export function carryTuned(tuning: Tuning): { carried: CarriedText; refused: Refused[] } {
  const refused: Refused[] = []
  const good: Edit[] = []
  const base = carryText(tuning.texts, tuning.options)
  let carried = base
  for (const tune of tuning.tunes) {
    const { decision } = tune
    const edit = editOf(tune, tuning.planned.docs)
    if (typeof edit === 'string') {
      refused.push({ decision, why: edit })
      continue
    }
    const made = carryEdited(tuning, base, [...good, edit])
    if (made !== undefined && isOnly(carried.text, made.text, edit, tuning.planned.docs)) {
      good.push(edit)
      carried = made
    } else refused.push({ decision, why: MORE })
  }
  return { carried, refused }
}

const MORE = 'with this value the file cannot be read, or more than this key would change'

/** Whether a result differs from the one before by that edit alone. */
function isOnly(
  before: string | undefined,
  after: string | undefined,
  { tune, text }: Edit,
  docs: Triple<Doc>,
): boolean {
  if (before === undefined || after === undefined) return false
  const least = Math.min(before.length, after.length)
  let from = 0
  while (from < least && before[from] === after[from]) from++
  let tail = 0
  while (tail < least - from && before.at(-1 - tail) === after.at(-1 - tail)) tail++
  const plain = (each: string): string => each.replaceAll('\r', '')
  const [was, is] = [before, after].map((each) => plain(each.slice(from, each.length - tail)))
  const stood = SIDES.some((side) => {
    const node = tune.nodes[side]
    if (node < 0) return false
    return plain(docs[side].tree.source.slice(...sourceRegion(docs[side], node))).includes(
      was ?? '',
    )
  })
  return stood && plain(text).includes(is ?? '')
}

/** The result with pieces of the inputs written anew; undefined where that tells of other keys than the base does. */
function carryEdited(
  { texts, options, planned }: Tuning,
  base: CarriedText,
  edits: readonly Edit[],
): CarriedText | undefined {
  const edited = triple((side) => editedText(texts[side], side, edits, planned.docs))
  const { decisions = [] } = options
  const settled = edits.map(({ tune: { decision, by } }) => ({
    key: decision.key,
    by,
    take: 'mine' as const,
  }))
  const carried = carryText(edited, { ...options, decisions: [...decisions, ...settled] })
  if (carried.text === undefined) return undefined
  const tuned = new Map(edits.map(({ tune, text }) => [tune.decision.key, { tune, text }]))
  const isTuned = ({ key }: { key: string }): boolean => tuned.has(key)
  const before = keysOf(base, isTuned)
  const after = keysOf(carried, isTuned)
  if (before.size !== after.size || [...before].some((key) => !after.has(key))) return undefined
  const inBase = new Map([...base.changes, ...base.conflicts].map((row) => [row.key, row]))
  const changes = carried.changes
    .filter((row) => !isTuned(row))
    .map((row) => ({ ...row, ...asInputsHave(inBase.get(row.key)) }))
  const rows = [...tuned.values()].map(({ tune, text }) => tunedRow(tune, text))
  const conflicts = carried.conflicts.map((conflict): Conflict => ({
    ...conflict,
    ...asInputsHave(inBase.get(conflict.key)),
  }))
  const isOfTune = new Set(settled.map(({ key }) => key))
  const notApplied = (carried.notApplied ?? []).filter(({ key }) => !isOfTune.has(key))
  return { ...carried, changes: [...changes, ...rows], conflicts, notApplied }
}

/** The keys that a carry tells of, but those that are set. */
function keysOf(
  { changes, conflicts }: CarriedText,
  isTuned: (row: { key: string }) => boolean,
): Set<string> {
  return new Set([...changes, ...conflicts].filter((row) => !isTuned(row)).map(({ key }) => key))
}

/** What the inputs have at a row's key, without what was written into them. */
function asInputsHave(
  row: Change | Conflict | undefined,
): Partial<Pick<Conflict, 'old' | 'new' | 'mine' | 'id'>> {
  if (row === undefined) return {}
  const { old, new: fresh, mine, id } = row
  return { old, new: fresh, mine, ...(id === undefined ? {} : { id }) }
}

function tunedRow({ decision: { key }, values, by }: Tune, result: string): Change {
  const { old, new: fresh, mine } = values
  return { key, side: 'mine', kind: 'changed', by, old, new: fresh, mine, result }
}

/** How a value comes into the input that has the key; in words why it cannot. */
function editOf(tune: Tune, docs: Triple<Doc>): Edit | string {
  const { decision, nodes } = tune
  const side = nodes[MINE] >= 0 ? MINE : NEW
  const isGone = nodes[side] < 0 || (nodes[OLD] >= 0 && (nodes[NEW] < 0 || nodes[MINE] < 0))
  if (isGone) return 'the result does not have this key'
  const doc = docs[side]
  const value = decision.take === 'value' || decision.take === 'source' ? decision.value : undefined
  if (value === undefined) return chosenSide(tune, docs, side)
  if (decision.take === 'source') {
    const [start, end] = sourceRegion(doc, nodes[side])
    return { tune, side, start, end, text: value }
  }
  const isMember = doc.kind(nodes[side]) === Kind.Member
  const node = isMember ? doc.memberValue(nodes[side]) : nodes[side]
  const { tree } = doc
  if (!doc.isValue(node)) return 'an entry or a list stands there, not one value'
  const text = doc.format.encode(tree, node, value)
  if (text === undefined) return 'this text cannot stand there'
  const [start, end] = [tree.bodyStart(node), tree.bodyEnd(node)]
  if (start === tree.end(node)) return 'there is no place for a text; write it as source'
  return { tune, side, start, end, text }
}

/** Vanilla's or mine for a key that is not in question: what that side has there. */
function chosenSide(
  { decision, nodes, values, by }: Tune,
  docs: Triple<Doc>,
  side: Side,
): Edit | string {
  const from = decision.take === 'vanilla' ? NEW : decision.take === 'mine' ? MINE : undefined
  if (from === undefined) return 'nothing is in question there'
  if (nodes[from] < 0) return 'that side does not have this key'
  const source = docs[from].tree.source.slice(...sourceRegion(docs[from], nodes[from]))
  const take = { ...decision, take: 'source' as const, value: source }
  const made = editOf({ decision: take, nodes, values, by }, docs)
  return typeof made === 'string' ? made : { ...made, side, tune: { decision, nodes, values, by } }
}

/** An input with its pieces written anew, in its own line ends. */
function editedText(
  text: string | undefined,
  side: Side,
  edits: readonly Edit[],
  docs: Triple<Doc>,
): string | undefined {
  const own = edits.filter((edit) => edit.side === side).toSorted((a, b) => b.start - a.start)
  if (own.length === 0 || text === undefined) return text
  let { source } = docs[side].tree
  for (const { start, end, text: made } of own)
    source = source.slice(0, start) + made + source.slice(end)
  const ends = lineEndsOf(text)
  return ends === 'mixed' || ends === 'none' ? source : toLineEnds(source, ends)
}
