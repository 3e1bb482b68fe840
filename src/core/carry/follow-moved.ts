import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import type { Doc } from '../formats/doc.ts'
import { foldName } from '../formats/format.ts'
import { identitiesIn, keySegments, unquoteName } from '../keys/key.ts'
import type { DroppedAway, Moved, MovedAway } from '../match/moved-away.ts'
import { movedAway } from '../match/moved-away.ts'
import type { Sought } from '../match/placer.ts'
import type { Plan } from '../plan/plan.ts'
import { shownPlan } from '../report/shown-plan.ts'
import { reportPlan } from '../report/report-plan.ts'
import { writePlan } from '../write/write-plan.ts'
import type { PlanOptions } from '../plan/context.ts'
import type { DecidedPlan, Decision } from '../plan/decide.ts'
import type { Ledger } from '../report/ledger.ts'
import type { ConflictKind } from '../plan/telling.ts'
import { Planner } from '../plan/plan-node.ts'
import type { FollowedEntry } from '../plan/moved-entries.ts'
import { MovedEntries } from '../plan/moved-entries.ts'
import { carryProblems } from '../plan/carry-problems.ts'
import { decodedValue, shownValue } from '../formats/shown-value.ts'

/** What it takes to plan once more. */
interface PlanAgain {
  options: PlanOptions
  /** What a made line end is. */
  lineEnd: string
  /** A ledger with what is to be said of the inputs, and nothing else. */
  ledgerOfInputs: () => Ledger
  /** The key whose places are told with its change. */
  explain: string | undefined
  /** Applies decisions to a plan. */
  settle: (plan: Plan, planner: Planner) => Omit<DecidedPlan, 'notApplied'>
}

/** Documents in which what was moved stands where it was moved to, with the other side's edits, and their plan. */
export interface PlannedAgain {
  docs: Triple<Doc>
  plan: Plan
  ledger: Ledger
  /** By node of old: what was decided to stand nowhere, and stands in this plan still. */
  elsewhere: DecidedPlan['elsewhere']
}

/** An entry that was moved is in all three documents. */
const ALL_THERE: Triple<boolean> = [true, true, true]

/**
 * Plans once more, where a side moved entries to another container that the other side edited: the edits
 * follow them there. Undefined where nothing was moved so.
 *
 * @param asked the ledger of the first plan
 */
export function followMoved(
  docs: Triple<Doc>,
  asked: Ledger,
  again: PlanAgain,
): PlannedAgain | undefined {
  const { options } = again
  const found = movedAway(docs, options.identities, inQuestion(asked, options, docs))
  const count = found.edited.length + found.dropped.length + found.namesakes.size
  if (count === 0) return undefined
  const planned = planFollowing(docs, found, again, new Map())
  const { elsewhere } = planned
  if (elsewhere.size === 0) return planned
  const dropped = found.dropped.map((entry) =>
    elsewhere.has(entry.nodes[OLD]) ? { ...entry, isAsked: false } : entry,
  )
  return planFollowing(docs, { ...found, dropped }, again, elsewhere)
}

/** @param decided entries that are dropped where they stand now since that was decided, by the node of old */
function planFollowing(
  docs: Triple<Doc>,
  found: Moved,
  { options, lineEnd, ledgerOfInputs, explain, settle }: PlanAgain,
  decided: DecidedPlan['elsewhere'],
): PlannedAgain {
  const ledger = ledgerOfInputs()
  const textOf = (of: Triple<Doc>, plan: Plan): string =>
    writePlan(plan, of, { lineEnd, present: ALL_THERE })
  const withEdits = (entry: MovedAway): Followed => {
    const side = entry.by === 'vanilla' ? NEW : MINE
    if (entry.by === 'both')
      return { ...entry, text: '', shown: shownValue(docs[side], entry.nodes[side]) }
    const planner = new Planner(docs, options)
    const { plan } = settle(planner.node(entry.nodes, entry), planner)
    const text = (part: Plan): string => textOf(docs, part)
    reportPlan(plan, docs, ledger, { explain, textOf: text })
    const shown = shownPlan(plan, docs, [side, entry.nodes[side]], text)
    return { ...entry, text: text(plan), shown }
  }
  const entries = found.edited.map(withEdits)
  const moved = new MovedEntries(entries, found)
  const readAgain = (side: typeof NEW | typeof MINE): Doc => {
    const spliced = moved.sourceOf(side, docs[side])
    return spliced.text === docs[side].tree.source ? docs[side] : docs[side].respliced(spliced)
  }
  const merged: Triple<Doc> = [docs[OLD], readAgain(NEW), readAgain(MINE)]
  const known = merged.filter((doc, side) => merged.indexOf(doc) === side)
  const identities = options.identities.alsoOf(known)
  const planner = new Planner(merged, { ...options, identities, moved })
  const { plan, elsewhere } = settle(planner.whole(ALL_THERE), planner)
  reportPlan(plan, merged, ledger, { explain, textOf: (part) => textOf(merged, part) })
  for (const entry of entries) tellMoved(docs, entry, ledger)
  for (const entry of found.dropped)
    if (!entry.isAsked) tellDropped(docs, entry, decided.get(entry.nodes[OLD]), ledger)
  return { docs: merged, plan, ledger, elsewhere }
}

/**
 * The names of entries that may stand in another container: those in question, and those that both brought
 * otherwise or dropped. All names, where that is an entry which stands alone, so that its key does not name it.
 */
function inQuestion(
  { conflicts, changes }: Ledger,
  options: PlanOptions,
  docs: Triple<Doc>,
): Sought {
  if (options.everyDifference || options.together.length > 0) return NOTHING_SOUGHT
  const asked: Asked[] = [
    ...conflicts.flatMap(({ key, kind }) => {
      const lacking = LACKING[kind]
      return lacking === undefined ? [] : [{ key, lacking }]
    }),
    ...changes.flatMap(({ key, kind, side, ...row }): Asked[] => {
      if (side !== 'both') return []
      if (kind === 'removed') return [{ key, lacking: [NEW, MINE], was: row.old ?? '' }]
      return kind === 'added' && row.new !== row.mine ? [{ key, lacking: [OLD] }] : []
    }),
  ]
  const isIn = (side: Side, name: string): boolean =>
    name.split('|').every((part) => docs[side].tree.source.includes(part))
  // most that is gone stands nowhere else, and then no document has to be gone through
  const maybe =
    asked.length > FEW
      ? asked
      : asked.filter(
          ({ key, lacking, was }) =>
            was !== undefined ||
            lacking.some((side) => identitiesIn(key).every((name) => isIn(side, name))),
        )
  const names = maybe.map(({ key }) => identitiesIn(key))
  const ownNames = maybe.flatMap(({ key }) =>
    keySegments(key).map(({ name }) => foldName(docs[OLD].format, unquoteName(name))),
  )
  const isNamed = names.every((each) => each.length > 0)
  const dropped = asked.flatMap(({ was }) => (was === undefined || was === '' ? [] : [was]))
  // what was dropped may have an id though its key is by another name
  const words = dropped.flatMap((text) => text.split(/[\s"'<>=,]+/))
  return {
    ids: isNamed ? new Set([...names.flat(), ...words]) : 'all',
    names: new Set(ownNames),
    dropped: new Set(dropped),
  }
}

/** An entry that may stand elsewhere, and the documents that have it no more where it was, or had it not. */
interface Asked {
  key: string
  lacking: readonly Side[]
  /** Of what both dropped: as it stood in old. */
  was?: string
}

const NOTHING_SOUGHT: Sought = { ids: new Set(), names: new Set(), dropped: new Set() }

/** Of so many names each is looked for in the sources first. */
const FEW = 50

const LACKING: Partial<Record<ConflictKind, readonly Side[]>> = {
  'gone-in-vanilla': [NEW],
  'gone-in-mine': [MINE],
  'two-new': [OLD],
}

/** An entry that stands in another container with the edits in it. */
interface Followed extends FollowedEntry {
  /** What a report shows of it. */
  shown: string
}

/** One row for an entry that stands in another container, and a note for people. */
function tellMoved(
  docs: Triple<Doc>,
  { nodes, by, key, was, shown }: Followed,
  ledger: Ledger,
): void {
  const side = by === 'vanilla' ? NEW : MINE
  const [old, fresh, mine] = triple((each) => shownValue(docs[each], nodes[each]))
  ledger.change({ key, side: by, kind: 'moved', was, old, new: fresh, mine, result: shown })
  if (by !== 'both')
    ledger.problem(carryProblems.movedAway(docs[side], nodes[side], was, key, side))
}

/** What each side did with an entry that one moved and the other had dropped, and a note. */
function tellDropped(
  docs: Triple<Doc>,
  { nodes, by, key, was }: DroppedAway,
  decision: Decision | undefined,
  ledger: Ledger,
): void {
  const [mover, dropper] =
    by === 'vanilla' ? ([NEW, 'mine'] as const) : ([MINE, 'vanilla'] as const)
  const [old, fresh, mine] = triple((each) =>
    nodes[each] < 0 ? null : shownValue(docs[each], nodes[each]),
  )
  const values = { old, new: fresh, mine, result: null }
  if (decision !== undefined) {
    const kind = by === 'vanilla' ? 'gone-in-mine' : 'gone-in-vanilla'
    const decoded = triple((each) => decodedValue(docs[each], nodes[each]))
    const at = { old: null, new: null, mine: null }
    const settled = { by: decision.by, stands: dropper }
    ledger.conflict({ key: decision.key, kind, ...values, at }, decoded, settled)
    return
  }
  ledger.change({ key: was, side: dropper, kind: 'removed', ...values })
  ledger.change({ key, side: by, kind: 'moved', was, ...values })
  ledger.problem(carryProblems.droppedAway(docs[mover], nodes[mover], was, key, mover))
}
