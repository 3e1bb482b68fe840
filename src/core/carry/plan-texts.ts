import type { Thresholds } from '../document/thresholds.ts'
import { Tree } from '../document/tree.ts'
import type { Triple } from '../document/sides.ts'
import { triple } from '../document/sides.ts'
import { Doc } from '../formats/doc.ts'
import type { DialectReader, DialectSettings, Format, ParseResult } from '../formats/format.ts'
import { foldName } from '../formats/format.ts'
import { Identities } from '../identity/identities.ts'
import { commentsOfBoth } from '../plan/comments.ts'
import type { PlanOptions } from '../plan/context.ts'
import type { DecidedPlan, Decision } from '../plan/decide.ts'
import { decide, NOTHING_ASKED } from '../plan/decide.ts'
import type { Plan } from '../plan/plan.ts'
import { followMoved } from './follow-moved.ts'
import type { InputProblem } from '../plan/telling.ts'
import { Ledger } from '../report/ledger.ts'
import { Planner } from '../plan/plan-node.ts'
import { writePlan } from '../write/write-plan.ts'
import { reportPlan } from '../report/report-plan.ts'
import { NOTHING_MOVED } from '../plan/moved-entries.ts'
import type { Wrapping } from '../plan/wrappings.ts'
import { wrapAlike } from './wrap-alike.ts'

export interface CarryOptions {
  format: Format
  /** What is said of the dialect; all else is inferred from vanilla's files. */
  dialect?: DialectSettings | undefined
  /** The file's path in reports and in the names of conflicts: relative, with `/`. */
  path: string
  /** Place to identity, as the config says; everything else is inferred. */
  identity?: ReadonlyMap<string, string>
  /** The same as it was chosen in an earlier carry of this file: kept where it still tells entries apart. */
  identityBefore?: ReadonlyMap<string, string> | undefined
  /** Places where the order of entries matters. */
  ordered?: ReadonlySet<string>
  /** Places whose value is a list, and what separates its items. */
  lists?: ReadonlyMap<string, string>
  /** Groups of places whose keys only make sense together: what is in question there is one question. */
  together?: readonly (readonly string[])[]
  /** Whether only the report is wanted: then nothing is put together, and mine's text is the result. */
  onlyReport?: boolean
  /** What was decided for keys that are conflicts. */
  decisions?: readonly Decision[]
  /** A key whose places are told with its change. */
  explain?: string | undefined
  /** Shown the documents when they have been merged, for whoever wants to know more of them. */
  inspect?: ((read: ReadDocuments) => void) | undefined
  /** Without an old nothing is known of who changed what: every difference is a question. */
  everyDifference?: boolean
  /** From which sizes on shorter ways to the same result are taken; the program's own by default. */
  thresholds?: Thresholds
}

/** Three texts that have been read. */
export interface ReadTexts {
  readings: Triple<ParseResult | undefined>
  reader: DialectReader
  /** What a made line end is. */
  lineEnd: string
  /** What is to be said of the texts as they stand. */
  problems: readonly InputProblem[]
  thresholds: Thresholds
}

/** The documents of a carry, and what tells their entries apart. */
export interface ReadDocuments {
  docs: Triple<Doc>
  identities: Identities
  /** Which of the documents there are. */
  present: Triple<boolean>
}

/** The plan of a carry, the documents that it is about, and what it tells. */
export interface PlannedTexts extends ReadDocuments {
  plan: Plan
  ledger: Ledger
  /** Decisions that could not be applied, and why. */
  notApplied: DecidedPlan['notApplied']
}

/**
 * Plans the merge of texts that have been read, and what there is to tell of it. A comment that both brought is one
 * only where the result has it: mine's may go with the entry above which it stands.
 */
export function planTexts(texts: ReadTexts, options: CarryOptions): PlannedTexts {
  const planned = planOnce(texts, options, new Set())
  if (options.onlyReport === true || options.everyDifference === true) return planned
  const { plan, docs, present } = planned
  const both = commentsOfBoth(docs)
  if (both.size === 0) return planned
  const { lineEnd, reader } = texts
  const { tree } = reader.read(writePlan(plan, docs, { lineEnd, present }))
  const { comments } = new Doc(options.format, tree, reader)
  const lost = new Set([...both].filter((comment) => !comments.has(comment)))
  return lost.size === 0 ? planned : planOnce(texts, { ...options, inspect: undefined }, lost)
}

/** @param apart comments that both brought, and that are not one */
function planOnce(
  texts: ReadTexts,
  options: CarryOptions,
  apart: ReadonlySet<string>,
): PlannedTexts {
  return planDocs(documentsOf(texts, options.format), texts, options, { apart, wrapped: new Map() })
}

/** What was found out by a plan of the same documents. */
interface FoundBefore {
  /** Comments that both brought, and that are not one. */
  apart: ReadonlySet<string>
  /** Containers that one side alone had around entries, by their keys. */
  wrapped: ReadonlyMap<string, Wrapping>
}

function planDocs(
  docs: Triple<Doc>,
  texts: ReadTexts,
  options: CarryOptions,
  { apart, wrapped }: FoundBefore,
): PlannedTexts {
  const { readings, lineEnd, problems, thresholds } = texts
  const known = docs.filter((_, side) => readings[side] !== undefined)
  const identities = new Identities(known, options.identity ?? new Map(), options.identityBefore)
  const present = triple((side) => readings[side] !== undefined)
  const placeName = (place: string): string => foldName(options.format, place)
  const planning: PlanOptions = {
    identities,
    everyDifference: options.everyDifference === true,
    ordered: new Set([...(options.ordered ?? [])].map(placeName)),
    lists: new Map([...(options.lists ?? [])].map(([place, by]) => [placeName(place), by])),
    together: (options.together ?? []).map((places) => places.map(placeName)),
    apart,
    thresholds,
    moved: NOTHING_MOVED,
    wrapped,
  }
  const ledgerOfInputs = (): Ledger => {
    const ledger = new Ledger(options.path)
    for (const problem of problems) ledger.problem(problem)
    return ledger
  }
  const { explain, decisions = [] } = options
  const applying = new Applying(decisions)
  const tell = (plan: Plan): Ledger => {
    const ledger = ledgerOfInputs()
    const textOf = (part: Plan): string => writePlan(part, docs, { lineEnd, present })
    reportPlan(plan, docs, ledger, { explain, textOf })
    return ledger
  }
  const planner = new Planner(docs, planning)
  const open = planner.whole(present)
  const { found } = planner.wrappings
  // keys that belong together are named by their places, which would be others. It ends, for what is put around entries
  // is in all documents then
  if (found.length > 0 && planning.together.length === 0) {
    const also = new Map([...wrapped, ...found.map((each) => [each.key, each] as const)])
    return planDocs(wrapAlike(docs, found), texts, options, { apart, wrapped: also })
  }
  const asked = tell(open)
  options.inspect?.({ docs, identities, present })
  const again = {
    options: planning,
    lineEnd,
    ledgerOfInputs,
    explain,
    settle: (each: Plan, by: Planner) => applying.settle(each, by),
  }
  const moved = followMoved(docs, asked, again)
  if (moved !== undefined)
    return { ...moved, identities, present, notApplied: applying.notApplied() }
  const { plan } = applying.settle(open, planner)
  const ledger = plan === open ? asked : tell(plan)
  return { docs, plan, ledger, identities, present, notApplied: applying.notApplied() }
}

/** Decisions that are applied to several plans: of each entry that was moved, and of the whole. */
class Applying {
  private readonly open: Map<string, string | undefined>

  constructor(private readonly decisions: readonly Decision[]) {
    this.open = new Map(decisions.map(({ key }) => [key, undefined]))
  }

  settle(plan: Plan, planner: Planner): DecidedPlan {
    if (this.decisions.length === 0) return { plan, notApplied: [], elsewhere: new Map() }
    const decided = decide(plan, this.decisions, planner)
    const notApplied = new Map(decided.notApplied.map(({ key, why }) => [key, why]))
    for (const { key } of this.decisions) {
      const why = notApplied.get(key)
      if (why === undefined) this.open.delete(key)
      else if (why !== NOTHING_ASKED && this.open.has(key)) this.open.set(key, why)
    }
    return decided
  }

  /** What no plan had a question for that could be settled so. */
  notApplied(): DecidedPlan['notApplied'] {
    return [...this.open].map(([key, why = NOTHING_ASKED]) => ({ key, why }))
  }
}

/** What is one text is one document. */
function documentsOf({ readings, reader }: ReadTexts, format: Format): Triple<Doc> {
  const documents = new Map<Tree, Doc>()
  const nothing = new Doc(format, Tree.ofNothing(), reader)
  return triple((side) => {
    const tree = readings[side]?.tree
    if (tree === undefined) return nothing
    const document = documents.get(tree) ?? new Doc(format, tree, reader)
    documents.set(tree, document)
    return document
  })
}
