import { countLineEnds, isLineEnd } from '../document/characters.ts'
import { gather } from '../document/gather.ts'
import { isRepeatable, Kind } from '../document/kind.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'
import type { NodeRange } from '../document/unit-list.ts'
import { surely } from '../document/surely.ts'
import { canonical } from '../formats/canonical.ts'
import { Doc } from '../formats/doc.ts'
import { identityText } from '../identity/expression.ts'
import type { Identities } from '../identity/identities.ts'

/** An entry that is indented so much further than the words around it is an example in them. */
const EXAMPLE_INDENT = 2

/** An entry that stands in comments: those comments, and the entry in a document that was read from their text. */
export interface DormantEntry extends NodeRange {
  doc: Doc
  node: number
  /** Whether comments directly above or below are words: `name = what it is for` may be words, too. */
  isAmongWords: boolean
}

/** The same before what stands around it is known. */
type ReadEntry = Omit<DormantEntry, 'isAmongWords'>

/** The dormant entries of one container, by the first of their comments. */
export type Dormant = ReadonlyMap<number, DormantEntry>

/** What stands in the comments of one container, in each document. */
export interface DormantEntries {
  /** The entries that are dormant there: they are matched like live ones. */
  entries: Triple<Dormant>
  /** The entry of a name that stands in a comment, whether that is matched or not; a live one gives the name. */
  inComments(side: Side, live: { doc: Doc; node: number }): DormantEntry | undefined
}

/** One container in each document, -1 where it is not there, and its key without identities. */
interface Place {
  nodes: Triple<number>
  place: string
  identities: Identities
}

/**
 * Finds the comments of a container that are entries, dormant: old has an entry of that name, live or dormant,
 * or new and mine both have it dormant. Where a document has two of one name, live or dormant, entries of that name are
 * told by what they hold, too; where it has two of those, nothing tells which is meant, and they are comments like
 * others. So they are where no document has the entry live and one has it among words. Undefined where there are none.
 */
export function dormantEntries(docs: Triple<Doc>, place: Place): DormantEntries | undefined {
  const { nodes } = place
  const found = triple((side) =>
    nodes[side] < 0 || !docs[side].hasComments ? [] : candidates(docs[side], nodes[side]),
  )
  if (found.every(({ length }) => length === 0)) return undefined
  const byName = triple((side) => new Names(docs[side], nodes[side], place, found[side]))
  const repeated = new Set(SIDES.flatMap((side) => byName[side].repeated()))
  const names =
    repeated.size === 0
      ? byName
      : triple((side) => new Names(docs[side], nodes[side], place, found[side], repeated))
  const called = new Set(SIDES.flatMap((side) => [...names[side].dormant.keys()]))
  const live = triple((side) => names[side].live(called))
  const isMeant = (name: string): boolean => {
    const inLive = triple((side) => live[side].get(name) ?? 0)
    const inComments = triple((side) => names[side].dormant.get(name)?.length ?? 0)
    if (SIDES.some((side) => inLive[side] + inComments[side] > 1)) return false
    const isWords = (side: Side): boolean =>
      names[side].dormant.get(name)?.[0]?.isAmongWords === true
    if (inLive.every((count) => count === 0) && SIDES.some(isWords)) return false
    const isThere = (side: Side): boolean => inLive[side] + inComments[side] > 0
    if (inComments[NEW] > 0 && inComments[MINE] > 0) return true
    return isThere(OLD) && (isThere(NEW) || isThere(MINE))
  }
  const meant = new Set([...called].filter(isMeant))
  return {
    entries: triple((side) => names[side].dormantOf(meant)),
    inComments: (side, live) => names[side].called(live),
  }
}

/** All entries that comments of a container read as: comments that begin their line, alone or several together. */
function candidates(doc: Doc, container: number): DormantEntry[] {
  const inContainer = kindsIn(doc, container)
  const section = inContainer.includes(Kind.Section) ? firstSection(doc, container) : -1
  return commentRuns(doc, container).flatMap((run) => {
    // what stands above a section is no key of the document: such stand before all sections
    const isBehind = section >= 0 && surely(run[0]) > section
    const kinds = isBehind ? inContainer.filter((kind) => kind !== Kind.Property) : inContainer
    return entriesIn(doc, container, run, kinds)
  })
}

/** The entries that a run of comments reads as, but for those that are indented as examples in its words are. */
function entriesIn(
  doc: Doc,
  container: number,
  run: readonly number[],
  kinds: readonly Kind[],
): DormantEntry[] {
  const texts = run.map((comment) => doc.tree.body(comment))
  const words = new Set(texts.keys())
  const entries: (ReadEntry & { indent: number })[] = []
  for (let at = 0; at < run.length; at++) {
    const entry = entryFrom(doc, run, texts, at, kinds)
    if (entry === undefined || isAboveKeys(doc, container, entry)) continue
    entries.push({ ...entry, indent: indentOf(surely(texts[at])) })
    words.delete(at)
    while (run[at] !== entry.last) words.delete(++at)
  }
  const isAmongWords = words.size > 0
  let margin = Infinity
  for (const line of words) margin = Math.min(margin, indentOf(surely(texts[line])))
  return entries
    .filter(({ indent }) => indent < margin + EXAMPLE_INDENT)
    .map((entry) => ({ ...entry, isAmongWords }))
}

/** The blanks before what a comment says; of one that says nothing, Infinity. */
function indentOf(text: string): number {
  const [blanks = ''] = /^[ \t]*/.exec(text) ?? []
  return blanks.length < text.trimEnd().length ? blanks.length : Infinity
}

/** The first section that a container holds, or -1. */
function firstSection({ tree }: Doc, container: number): number {
  const stop = tree.next(container)
  for (let node = container + 1; node < stop; node = tree.next(node))
    if (tree.kind(node) === Kind.Section) return node
  return -1
}

/** Whether a section in comments is one of which the keys are live: those would become keys of another. */
function isAboveKeys(doc: Doc, container: number, { doc: read, node, last }: ReadEntry): boolean {
  if (read.kind(node) !== Kind.Section) return false
  const { tree } = doc
  let next = tree.next(last)
  while (next < tree.next(container) && tree.kind(next) === Kind.Comment) next = tree.next(next)
  return next < tree.next(container) && tree.kind(next) === Kind.Property
}

/** The kinds of entries that a container holds. */
function kindsIn(doc: Doc, container: number): readonly Kind[] {
  switch (doc.kind(container)) {
    case Kind.Document:
      return doc.format.hasOneRoot ? [] : [Kind.Section, Kind.Property]
    case Kind.Section:
      return [Kind.Property]
    case Kind.Object:
      return [Kind.Member]
    case Kind.Array:
      return [Kind.Object]
    default:
      return [Kind.Element]
  }
}

function entryFrom(
  doc: Doc,
  run: readonly number[],
  texts: readonly string[],
  at: number,
  kinds: readonly Kind[],
): ReadEntry | undefined {
  for (const kind of kinds) {
    const length = doc.format.entryLength(texts, at, kind)
    const [first, last] = [run[at], run[at + length - 1]]
    if (length === 0 || first === undefined || last === undefined) continue
    const entry = readEntry(doc, texts.slice(at, at + length).join('\n'), kind)
    if (entry !== undefined) return { ...entry, first, last }
  }
  return undefined
}

/** What a comment's text holds, read in the format and dialect of the file: the one entry of a kind, or nothing. */
function readEntry(
  { format, reader }: Doc,
  text: string,
  kind: Kind,
): Pick<DormantEntry, 'doc' | 'node'> | undefined {
  const { source, holdsEntries } = format.asSource(text.trim().replace(/,$/, ''), kind)
  const { tree, problems } = reader.read(source)
  if (problems.length > 0) return undefined
  const doc = new Doc(format, tree, reader)
  const root = doc.root()
  const entries = (holdsEntries ? doc.children(root) : doc.children(0)).filter(
    (node) => doc.kind(node) !== Kind.Comment,
  )
  const [node = -1] = entries
  return entries.length === 1 && doc.kind(node) === kind ? { doc, node } : undefined
}

/** The comments of a container that begin their line, those that follow each other line by line together. */
function commentRuns({ tree }: Doc, container: number): number[][] {
  const runs: number[][] = []
  const { source } = tree
  const stop = tree.next(container)
  let last = -1
  for (let node = container + 1; node < stop; node = tree.next(node)) {
    if (tree.kind(node) !== Kind.Comment || !beginsLine(source, tree.start(node))) continue
    const follows =
      last === node - 1 && countLineEnds(source, tree.end(last), tree.start(node)) === 1
    const run = runs.at(-1)
    if (follows && run !== undefined) run.push(node)
    else runs.push([node])
    last = node
  }
  return runs
}

function beginsLine(source: string, offset: number): boolean {
  let at = offset - 1
  while (at >= 0 && (source.charCodeAt(at) === 32 || source.charCodeAt(at) === 9)) at--
  return at < 0 || isLineEnd(source.charCodeAt(at))
}

/** The names of one container's entries, live and dormant. Entries of a repeated name are told by what they hold, too. */
class Names {
  /** The dormant entries by what names them. */
  readonly dormant = new Map<string, DormantEntry[]>()

  constructor(
    private readonly doc: Doc,
    private readonly container: number,
    private readonly place: Place,
    found: readonly DormantEntry[],
    private readonly byValue: ReadonlySet<string> = new Set(),
  ) {
    for (const entry of found) {
      const name = this.nameOf(entry.doc, entry.node)
      if (name !== undefined) gather(this.dormant, name, entry)
    }
  }

  /** The names that several entries have, live or dormant; one live beside one dormant is a default that was copied. */
  repeated(): string[] {
    const live = this.live(new Set(this.dormant.keys()))
    return [...this.dormant].flatMap(([name, { length }]) =>
      length > 1 || (live.get(name) ?? 0) > 1 ? [name] : [],
    )
  }

  /** How many live entries have each of some names. */
  live(called: ReadonlySet<string>): Map<string, number> {
    const counts = new Map<string, number>()
    if (this.container < 0) return counts
    for (const node of this.doc.children(this.container)) {
      const name = this.nameOf(this.doc, node)
      if (name !== undefined && called.has(name)) counts.set(name, (counts.get(name) ?? 0) + 1)
    }
    return counts
  }

  /** The first dormant entry that has the name of an entry. */
  called({ doc, node }: { doc: Doc; node: number }): DormantEntry | undefined {
    return this.dormant.get(this.nameOf(doc, node) ?? '')?.[0]
  }

  dormantOf(meant: ReadonlySet<string>): Dormant {
    const entries = [...this.dormant].flatMap(([name, [entry]]) =>
      entry !== undefined && meant.has(name) ? [entry] : [],
    )
    return new Map(entries.map((entry) => [entry.first, entry]))
  }

  /** What tells an entry from its siblings. */
  private nameOf(doc: Doc, node: number): string | undefined {
    const name = this.ownName(doc, node)
    return name !== undefined && this.byValue.has(name) ? `${name}\0${canonical(doc, node)}` : name
  }

  /** The name of an entry, and its identity where such entries have one. */
  private ownName(doc: Doc, node: number): string | undefined {
    const { identities, place } = this.place
    const kind = doc.kind(node)
    const name = doc.foldedName(node)
    const identity = isRepeatable(kind)
      ? identities.ofNamed(place, name)?.identity
      : kind === Kind.Object
        ? identities.ofItems(place, kind)?.identity
        : undefined
    if (identity === undefined) return name === '' ? undefined : `${kind} ${name}`
    const own = identityText(doc, node, identity)
    return own === undefined ? undefined : `${kind} ${name}\0${own}`
  }
}
