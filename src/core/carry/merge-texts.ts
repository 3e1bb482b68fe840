import { Tree } from '../document/tree.ts'
import { Doc } from '../formats/doc.ts'
import type { DialectReader, DialectSettings, Format, Reading } from '../formats/format.ts'
import { foldName } from '../formats/format.ts'
import { Identities } from '../identity/identities.ts'
import type { Triple } from '../document/sides.ts'
import { triple } from '../document/sides.ts'
import type { InputProblem } from './ledger.ts'
import { Ledger } from './ledger.ts'
import { Merge } from './merge.ts'
import type { Thinned } from './untouched.ts'
import { ReadDoc, withoutUntouched } from './untouched.ts'

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
}

/** Three texts that have been read. */
export interface ReadTexts {
  readings: Triple<Reading | undefined>
  reader: DialectReader
  /** What a made line end is. */
  lineEnd: string
  /** What is to be said of the texts as they stand. */
  problems: readonly InputProblem[]
}

export interface MergedTexts {
  text: string
  ledger: Ledger
  identities: Identities
}

/** Merges texts that have been read; what nobody touched is left out of the merge where that cannot be seen. */
export function mergeTexts(texts: ReadTexts, options: CarryOptions): MergedTexts {
  const documents = documentsOf(texts, options.format)
  const whole = (): Thinned => ({
    docs: triple((side) => documents[side].whole),
    leftOutBehind: new Map(),
  })
  const known = documents.filter((_, side) => texts.readings[side] !== undefined)
  const identities = (): Identities => new Identities(known, options.identity ?? new Map())
  const first = identities()
  const thinned = mayLeaveOut(texts, options) ? withoutUntouched(documents, first) : undefined
  const some = merged(texts, options, first, thinned ?? whole())
  const done = some.needsAll ? merged(texts, options, identities(), whole()) : some
  options.inspect?.(whole().docs)
  return done
}

function merged(
  { readings, lineEnd, problems }: ReadTexts,
  options: CarryOptions,
  identities: Identities,
  { docs, leftOutBehind }: Thinned,
): MergedTexts & { needsAll: boolean } {
  const ledger = new Ledger(options.path)
  for (const problem of problems) ledger.problem(problem)
  const placeName = (place: string): string => foldName(options.format, place)
  const merge = new Merge(
    docs,
    triple((side) => readings[side] !== undefined),
    ledger,
    {
      identities,
      lineEnd,
      everyDifference: options.everyDifference === true,
      ordered: new Set([...(options.ordered ?? [])].map(placeName)),
      lists: new Map([...(options.lists ?? [])].map(([place, by]) => [placeName(place), by])),
      together: (options.together ?? []).map((places) => places.map(placeName)),
      explain: options.explain,
      leftOutBehind,
    },
  )
  return { text: merge.run(), ledger, identities, needsAll: merge.needsAll }
}

/** What is one text is one document. */
function documentsOf({ readings, reader }: ReadTexts, format: Format): Triple<ReadDoc> {
  const documents = new Map<Tree, ReadDoc>()
  const empty = new Doc(format, new Tree(''), reader)
  return triple((side) => {
    const tree = readings[side]?.tree
    if (tree === undefined) return new ReadDoc(empty)
    const document = documents.get(tree) ?? new ReadDoc(new Doc(format, tree, reader))
    documents.set(tree, document)
    return document
  })
}

/** Whether nothing is asked that concerns entries which nobody touched. */
function mayLeaveOut({ readings }: ReadTexts, options: CarryOptions): boolean {
  return (
    readings.every((reading) => reading !== undefined) &&
    options.everyDifference !== true &&
    (options.together ?? []).length === 0 &&
    (options.ordered?.size ?? 0) === 0
  )
}
