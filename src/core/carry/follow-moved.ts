import type { Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import { Doc } from '../formats/doc.ts'
import type { DialectReader } from '../formats/format.ts'
import { identitiesIn } from '../keys/key.ts'
import { movedAway } from '../match/moved-away.ts'
import type { MergeOptions } from '../plan/context.ts'
import type { ConflictKind, Ledger } from '../report/ledger.ts'
import { Merge } from '../plan/plan-node.ts'
import type { FollowedEntry } from '../plan/moved-entries.ts'
import { MovedEntries } from '../plan/moved-entries.ts'
import { carryProblems } from '../plan/carry-problems.ts'
import { shownValue } from '../report/shown-value.ts'

/** What it takes to merge once more. */
interface MergeAgain {
  reader: DialectReader
  options: MergeOptions
  /** A ledger with what is to be said of the inputs, and nothing else. */
  ledgerOfInputs: () => Ledger
}

/** An entry that was moved is in all three documents. */
const ALL_THERE: Triple<boolean> = [true, true, true]

/**
 * Merges once more, where a side moved entries to another container that the other side edited: the edits
 * follow them there. Undefined where nothing was moved so.
 *
 * @param asked the ledger of the first merge
 */
export function followMoved(
  docs: Triple<Doc>,
  asked: Ledger,
  { reader, options, ledgerOfInputs }: MergeAgain,
): { text: string; ledger: Ledger } | undefined {
  const found = movedAway(docs, options.identities, inQuestion(asked, options, docs))
  if (found.length === 0) return undefined
  const ledger = ledgerOfInputs()
  const entries = found.map((entry) => ({
    ...entry,
    text:
      entry.by === 'both'
        ? ''
        : new Merge(docs, ALL_THERE, ledger, options).entry(entry.nodes, entry),
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
  const merge = new Merge(merged, ALL_THERE, ledger, { ...options, identities, moved })
  const text = merge.run()
  for (const entry of entries) tellMoved(docs, entry, ledger)
  return { text, ledger }
}

/** The names of entries that are in question and may stand in another container. */
function inQuestion({ conflicts }: Ledger, options: MergeOptions, docs: Triple<Doc>): Set<string> {
  if (options.everyDifference || options.together.length > 0) return new Set()
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
