import { identitiesIn } from '../keys/key.ts'
import type { Thresholds } from '../document/thresholds.ts'
import { Tree } from '../document/tree.ts'
import type { Triple } from '../document/sides.ts'
import { triple } from '../document/sides.ts'
import { Doc } from '../formats/doc.ts'
import type { DialectReader, DialectSettings, Format, ParseResult } from '../formats/format.ts'
import { foldName } from '../formats/format.ts'
import { Identities } from '../identity/identities.ts'
import { MINE, NEW, OLD } from '../document/sides.ts'
import { movedAway } from '../match/moved-away.ts'
import type { MergeOptions } from './context.ts'
import type { ConflictKind, InputProblem } from './ledger.ts'
import { Ledger } from './ledger.ts'
import { Merge } from './merge.ts'
import type { FollowedEntry } from './moved-entries.ts'
import { MovedEntries, NOTHING_MOVED } from './moved-entries.ts'
import { carryProblems } from './problems.ts'
import { shownValue } from './values.ts'

export interface CarryOptions {
  format: Format
  /** What is said of the dialect; all else is inferred from vanilla's files. */
  dialect?: DialectSettings | undefined
  /** The file's path in reports and in the names of conflicts: relative, with `/`. */
  path: string
  /** Place to identity, as the config says; everything else is inferred. */
  identity?: ReadonlyMap<string, string>
  /** Places where the order of entries matters. */
  ordered?: ReadonlySet<string>
  /** Places whose value is a list, and what separates its items. */
  lists?: ReadonlyMap<string, string>
  /** Groups of places whose keys only make sense together: what is in question there is one question. */
  together?: readonly (readonly string[])[]
  /** A key whose places are told with its change. */
  explain?: string | undefined
  /** Shown the documents when they have been merged, for whoever wants to know more of them. */
  inspect?: ((docs: Triple<Doc>) => void) | undefined
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

export interface MergedTexts {
  text: string
  ledger: Ledger
  identities: Identities
}

/** Merges texts that have been read. */
export function mergeTexts(texts: ReadTexts, options: CarryOptions): MergedTexts {
  const { readings, lineEnd, problems, thresholds } = texts
  const docs = documentsOf(texts, options.format)
  const known = docs.filter((_, side) => readings[side] !== undefined)
  const identities = new Identities(known, options.identity ?? new Map())
  const present = triple((side) => readings[side] !== undefined)
  const placeName = (place: string): string => foldName(options.format, place)
  const merging: MergeOptions = {
    identities,
    lineEnd,
    everyDifference: options.everyDifference === true,
    ordered: new Set([...(options.ordered ?? [])].map(placeName)),
    lists: new Map([...(options.lists ?? [])].map(([place, by]) => [placeName(place), by])),
    together: (options.together ?? []).map((places) => places.map(placeName)),
    explain: options.explain,
    thresholds,
    moved: NOTHING_MOVED,
  }
  const ledgerOfInputs = (): Ledger => {
    const ledger = new Ledger(options.path)
    for (const problem of problems) ledger.problem(problem)
    return ledger
  }
  const ledger = ledgerOfInputs()
  const text = new Merge(docs, present, ledger, merging).run()
  options.inspect?.(docs)
  const called = inQuestion(ledger, options, docs)
  const again =
    called.size > 0
      ? followed(docs, texts, { ledger: ledgerOfInputs(), options: merging, called })
      : undefined
  return { text, ledger, ...again, identities }
}

/** The names of entries that are in question and may stand in another container. */
function inQuestion({ conflicts }: Ledger, options: CarryOptions, docs: Triple<Doc>): Set<string> {
  if (options.everyDifference === true || (options.together ?? []).length > 0) return new Set()
  const asked = conflicts.filter(({ kind }) => QUESTIONS_OF_MOVES.has(kind))
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

/**
 * Merges once more, where a side moved entries to another container that the other side edited: the edits
 * follow them there. Undefined where nothing was moved so.
 */
function followed(
  docs: Triple<Doc>,
  { reader }: ReadTexts,
  { ledger, options, called }: { ledger: Ledger; options: MergeOptions; called: Set<string> },
): Pick<MergedTexts, 'text' | 'ledger'> | undefined {
  const present: Triple<boolean> = [true, true, true]
  const found = movedAway(docs, options.identities, called)
  if (found.length === 0) return undefined
  const entries = found.map((entry) => ({
    ...entry,
    text:
      entry.by === 'both'
        ? ''
        : new Merge(docs, present, ledger, options).entry(entry.nodes, entry),
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
  const merge = new Merge(merged, present, ledger, { ...options, identities, moved })
  const text = merge.run()
  for (const entry of entries) tellMoved(docs, entry, ledger)
  return { text, ledger }
}

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
