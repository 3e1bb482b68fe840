import type { Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import { Doc } from '../formats/doc.ts'
import type { DialectReader } from '../formats/format.ts'
import { identitiesIn } from '../keys/key.ts'
import type { MovedAway } from '../match/moved-away.ts'
import { movedAway } from '../match/moved-away.ts'
import type { Plan } from '../plan/plan.ts'
import { reportPlan } from '../report/report-plan.ts'
import { writePlan } from '../write/write-plan.ts'
import type { PlanOptions } from '../plan/context.ts'
import type { Ledger } from '../report/ledger.ts'
import type { ConflictKind } from '../plan/telling.ts'
import { Planner } from '../plan/plan-node.ts'
import type { FollowedEntry } from '../plan/moved-entries.ts'
import { MovedEntries } from '../plan/moved-entries.ts'
import { carryProblems } from '../plan/carry-problems.ts'
import { shownValue } from '../formats/shown-value.ts'

/** What it takes to plan once more. */
interface PlanAgain {
  reader: DialectReader
  options: PlanOptions
  /** What a made line end is. */
  lineEnd: string
  /** A ledger with what is to be said of the inputs, and nothing else. */
  ledgerOfInputs: () => Ledger
  /** The key whose places are told with its change. */
  explain: string | undefined
  /** Applies decisions to a plan. */
  settle: (plan: Plan, planner: Planner) => Plan
}

/** Documents in which what was moved stands where it was moved to, with the other side's edits, and their plan. */
export interface PlannedAgain {
  docs: Triple<Doc>
  plan: Plan
  ledger: Ledger
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
  { reader, options, lineEnd, ledgerOfInputs, explain, settle }: PlanAgain,
): PlannedAgain | undefined {
  const found = movedAway(docs, options.identities, inQuestion(asked, options, docs))
  if (found.length === 0) return undefined
  const ledger = ledgerOfInputs()
  const textOf = (of: Triple<Doc>, plan: Plan): string =>
    writePlan(plan, of, { lineEnd, present: ALL_THERE })
  const withEdits = (entry: MovedAway): string => {
    const plan = new Planner(docs, options).node(entry.nodes, entry)
    reportPlan(plan, docs, ledger, { explain, textOf: (part) => textOf(docs, part) })
    return textOf(docs, plan)
  }
  const entries = found.map((entry) => ({
    ...entry,
    text: entry.by === 'both' ? '' : withEdits(entry),
  }))
  const moved = new MovedEntries(entries)
  const readAgain = (side: typeof NEW | typeof MINE): Doc => {
    const source = moved.sourceOf(side, docs[side])
    if (source === docs[side].tree.source) return docs[side]
    return new Doc(docs[side].format, reader.read(source).tree, reader)
  }
  const merged: Triple<Doc> = [docs[OLD], readAgain(NEW), readAgain(MINE)]
  const known = merged.filter((doc, side) => merged.indexOf(doc) === side)
  const identities = options.identities.alsoOf(known)
  const planner = new Planner(merged, { ...options, identities, moved })
  const plan = settle(planner.whole(ALL_THERE), planner)
  reportPlan(plan, merged, ledger, { explain, textOf: (part) => textOf(merged, part) })
  for (const entry of entries) tellMoved(docs, entry, ledger)
  return { docs: merged, plan, ledger }
}

/** The names of entries that are in question, or that both brought otherwise, and may stand in another container. */
function inQuestion(
  { conflicts, changes }: Ledger,
  options: PlanOptions,
  docs: Triple<Doc>,
): Set<string> {
  if (options.everyDifference || options.together.length > 0) return new Set()
  const asked = [
    ...conflicts.filter(({ kind }) => QUESTIONS_OF_MOVES.has(kind)),
    ...changes.filter((row) => row.kind === 'added' && row.side === 'both' && row.new !== row.mine),
  ]
  const called = new Set(asked.flatMap(({ key }) => identitiesIn(key)))
  if (called.size > FEW) return called
  // most that is gone stands nowhere else, and then no document has to be gone through
  const isEverywhere = (name: string): boolean =>
    docs.every(({ tree }) => name.split('|').every((part) => tree.source.includes(part)))
  return new Set([...called].filter(isEverywhere))
}

/** Of so many names each is looked for in the sources first. */
const FEW = 50

const QUESTIONS_OF_MOVES: ReadonlySet<ConflictKind> = new Set([
  'gone-in-vanilla',
  'gone-in-mine',
  'two-new',
])

/** One row for an entry that stands in another container, and a note for people. */
function tellMoved(
  docs: Triple<Doc>,
  { nodes, by, key, was }: FollowedEntry,
  ledger: Ledger,
): void {
  const side = by === 'vanilla' ? NEW : MINE
  const [old, fresh, mine] = triple((each) => shownValue(docs[each], nodes[each]))
  const result = side === NEW ? fresh : mine
  ledger.change({ key, side: by, kind: 'moved', was, old, new: fresh, mine, result })
  if (by !== 'both')
    ledger.problem(carryProblems.movedAway(docs[side], nodes[side], was, key, side))
}
