import { isBlank } from '../document/characters.ts'
import { Tree } from '../document/tree.ts'
import { Doc } from '../formats/doc.ts'
import type { DialectReader, DialectSettings, Format, Reading } from '../formats/format.ts'
import { foldName } from '../formats/format.ts'
import { Identities } from '../identity/identities.ts'
import type { Triple } from '../identity/sides.ts'
import { MINE, NEW, OLD, SIDE_NAMES, SIDES, triple } from '../identity/sides.ts'
import { Ledger } from './ledger.ts'
import type { Change, Conflict } from './ledger.ts'
import { lineEndsOf, pickForm, toLineEnds } from './line-ends.ts'
import { locate } from './locate.ts'
import { Merge } from './merge.ts'
import { pick } from './pick.ts'
import type { LocatedProblem } from './report.ts'

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

export interface CarriedText {
  /** The result; undefined where an input is malformed. */
  text: string | undefined
  changes: Change[]
  conflicts: Conflict[]
  problems: LocatedProblem[]
  /** Place to the identity that was used there. */
  identities: ReadonlyMap<string, string>
  /** The dialect that vanilla's files show, in a few words; empty where it is the plain one. */
  dialect: string
}

/**
 * The three-way merge of one file that is merged by key: what old, new and mine hold as text, in, and
 * the result with a row for each key in which new or mine differs from old, out. `old` is undefined
 * for a file that both brought.
 */
export function carryText(texts: Triple<string | undefined>, options: CarryOptions): CarriedText {
  const ledger = new Ledger(options.path)
  const ends = triple((side) => lineEndsOf(texts[side]))
  const uniform = SIDES.every((side) => ends[side] !== 'mixed')
  const target = pick(triple((side) => (ends[side] === 'none' ? undefined : ends[side]))) ?? 'lf'
  const sources = uniform ? triple((side) => toLineEnds(texts[side], 'lf')) : texts
  const reader = options.format.reader(vanillaOf(sources), options.dialect)
  const read = new Map<string, Reading>()
  const readings = triple((side) => {
    const source = sources[side]
    return source === undefined ? undefined : readOnce(source, reader, read)
  })
  for (const side of SIDES) {
    for (const problem of readings[side]?.problems ?? [])
      ledger.problem({ ...problem, input: SIDE_NAMES[side] })
  }
  const none = { changes: [], conflicts: [], identities: new Map<string, string>(), dialect: '' }
  if (ledger.problems.some((problem) => problem.severity === 'error')) {
    return { text: undefined, ...none, problems: locate(ledger.problems, sources, options.path) }
  }
  warnOfLaxness(readings, ledger)
  const empty = new Doc(options.format, new Tree(''), reader)
  const docs = docsOf(readings, (tree) => new Doc(options.format, tree, reader), empty)
  const present = triple((side) => readings[side] !== undefined)
  const known = docs.filter((_, side) => present[side] === true)
  const identities = new Identities(known, options.identity ?? new Map<string, string>())
  const lineEnd = uniform ? '\n' : LINE_END[target === 'mixed' ? 'lf' : target]
  const everyDifference = options.everyDifference === true
  const placeName = (place: string): string => foldName(options.format, place)
  const merged = new Merge(docs, present, ledger, {
    identities,
    lineEnd,
    everyDifference,
    ordered: new Set([...(options.ordered ?? [])].map(placeName)),
    lists: new Map([...(options.lists ?? [])].map(([place, by]) => [placeName(place), by])),
    together: (options.together ?? []).map((places) => places.map(placeName)),
    explain: options.explain,
  }).run()
  options.inspect?.(docs)
  const told = {
    conflicts: ledger.conflicts,
    problems: locate(ledger.problems, sources, options.path),
    identities: identities.choices(),
    dialect: [reader.dialect, ...traitsOf(vanillaOf(readings))]
      .filter((said) => said !== '')
      .join(', '),
  }
  if (everyDifference) return { text: texts[MINE], changes: [], ...told }
  const tails = triple((side) => tailOf(sources[side]))
  const ended = withTail(merged, tails[pickForm(tails) ?? MINE] ?? '')
  const text = uniform ? (toLineEnds(ended, target) ?? '') : ended
  return { text, changes: ledger.changes, ...told }
}

/** What is equal in two inputs is read once, and is one document; the first helps to read the others. */
function readOnce(source: string, reader: DialectReader, known: Map<string, Reading>): Reading {
  const [first] = known.values()
  const like = first?.problems.length === 0 ? first : undefined
  const reading = known.get(source) ?? reader.read(source, like)
  known.set(source, reading)
  return reading
}

function docsOf(
  readings: Triple<Reading | undefined>,
  make: (tree: Tree) => Doc,
  empty: Doc,
): Triple<Doc> {
  const docs = new Map<Tree, Doc>()
  return triple((side) => {
    const tree = readings[side]?.tree
    if (tree === undefined) return empty
    const doc = docs.get(tree) ?? make(tree)
    docs.set(tree, doc)
    return doc
  })
}

/** What shows the dialect: what vanilla has, or mine where there is nothing else. */
function vanillaOf<T>([old, fresh, mine]: Triple<T | undefined>): T[] {
  const isThere = (each: T | undefined): each is T => each !== undefined
  const vanilla = [old, fresh].filter(isThere)
  return vanilla.length > 0 ? vanilla : [mine].filter(isThere)
}

/** The laxnesses that readings have met, each once. */
function traitsOf(readings: readonly Reading[]): Set<string> {
  return new Set(readings.flatMap(({ lax }) => lax.map(({ trait }) => trait)))
}

const LINE_END = { lf: '\n', crlf: '\r\n', cr: '\r', none: '\n' } as const

/** The blanks and line ends that a text ends in. */
function tailOf(text: string | undefined): string | undefined {
  if (text === undefined) return undefined
  let at = text.length
  while (at > 0 && isBlank(text.charCodeAt(at - 1))) at--
  return text.slice(at)
}

/** What a file ends in is form: it is chosen three-way, whatever its last entry is. */
function withTail(text: string, tail: string): string {
  return text.slice(0, text.length - (tailOf(text) ?? '').length) + tail
}

function warnOfLaxness(readings: Triple<Reading | undefined>, ledger: Ledger): void {
  const vanilla = traitsOf(
    [readings[OLD], readings[NEW]].filter((reading) => reading !== undefined),
  )
  for (const lax of readings[MINE]?.lax ?? []) {
    if (!vanilla.has(lax.trait)) ledger.problem({ ...lax.warning, input: 'mine' })
  }
}
