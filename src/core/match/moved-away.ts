import { gather } from '../document/gather.ts'
import { HOLDING, Kind } from '../document/kind.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import { sameContent } from '../formats/canonical.ts'
import type { Doc } from '../formats/doc.ts'
import { shownValue } from '../formats/shown-value.ts'
import { foldName } from '../formats/format.ts'
import { customarySteps, isId } from '../identity/candidates.ts'
import type { Chosen, Identities } from '../identity/identities.ts'
import type { IdentityExpression } from '../identity/expression.ts'
import { identityOf, parseIdentity } from '../identity/expression.ts'
import { nodeSegment } from '../identity/node-segment.ts'
import { placeOf } from '../identity/place.ts'
import { identitySegment, joinKey } from '../keys/key.ts'
import { likeness, Rarity } from '../likeness/features.ts'
import type { Compared } from '../likeness/features.ts'
import { sampled } from '../likeness/sampled.ts'
import type { Changed } from './links.ts'

/** An entry that stands in another container than in old, and in which the other side has edits. */
export interface MovedAway {
  nodes: Triple<number>
  by: 'vanilla' | 'mine' | 'both'
  /** Its key where it stands now, and the one that it had. */
  key: string
  was: string
  /** The place of what it holds now. */
  place: string
}

/** An entry that one side moved to another container, and that the other side dropped. */
export interface DroppedAway {
  /** The entry, or -1 on the side that dropped it. */
  nodes: Triple<number>
  by: 'vanilla' | 'mine'
  key: string
  was: string
  /** The container in which it stands now. */
  container: number
  /** Whether the side that moved the entry changed something in it, too. */
  isChanged: boolean
}

/** Such entries agree in so much of what counts. */
const LEAST_ALIKE = 0.7
/** From this likeness on what is asked may be one. */
const PERHAPS = 0.3
/** What begins the number of a value in the place of a name. */
const BY_VALUE = '\0'
/** An entry without an id holds so much, if it is to be known again. */
const LEAST_PARTS = 3
/** So many siblings tell how rare a value is. */
const MOST_SIBLINGS = 64

/** An entry that an identity or its name tells, and where it stands. */
interface Placed {
  node: number
  /** Whether nothing but the name of a member, or of an element, tells it: others may have that by chance. */
  isByName: boolean
  /** The node of its container, and that one's key without the indices of nameless items. */
  within: number
  container: string
  key: string
  place: string
  /** All that stand beside it, itself among them. */
  siblings: readonly number[]
}

/** The entries that are looked for. */
export interface Sought {
  /** What they are called; `all` where that is not known. */
  ids: ReadonlySet<string> | 'all'
  /** The names of their elements and members. */
  names: ReadonlySet<string>
  /** The texts of entries of old that both dropped where they were: without a name what is equal is one. */
  dropped: ReadonlySet<string>
}

/** What stands in another container than in old. */
export interface Moved {
  /** Entries that the other side edited. */
  edited: readonly MovedAway[]
  /** Entries that the other side dropped. */
  dropped: readonly DroppedAway[]
  /** Of entries of old that are too little alike to be taken for one: the key of what has their name elsewhere. */
  namesakes: ReadonlyMap<number, string>
}

/**
 * The entries that a side moved to another container while the other side edited or dropped them: told by a name
 * that was meant to name entries, or by that of a member or a lone element, the only ones of it in each document,
 * and much alike.
 */
export function movedAway(docs: Triple<Doc>, identities: Identities, sought: Sought): Moved {
  if (sought.ids !== 'all' && sought.ids.size === 0)
    return { edited: [], dropped: [], namesakes: new Map() }
  const placed = triple((side) => new Placer(docs[side], identities, sought).run())
  const edited: MovedAway[] = []
  const dropped: DroppedAway[] = []
  const namesakes = new Map<number, string>()
  for (const [name, inOld] of placed[OLD]) {
    const [old, ...others] = inOld
    const inNew = placed[NEW].get(name) ?? []
    const inMine = placed[MINE].get(name) ?? []
    if (old === undefined || others.length > 0 || inNew.length > 1 || inMine.length > 1) continue
    if (name.includes(BY_VALUE) && !sought.dropped.has(shownValue(docs[OLD], old.node) ?? ''))
      continue
    const [[fresh], [mine]] = [inNew, inMine]
    if (fresh !== undefined && mine !== undefined) {
      const away = awayOf(docs, identities, [old, fresh, mine])
      if (away?.isAlike === true) edited.push(away.moved)
      else if (away !== undefined) namesakes.set(old.node, away.moved.key)
      // what each put elsewhere stands in both places, which is asked
      const parted = areParted(old, fresh, mine)
        ? droppedAway(docs, identities, old, [NEW, fresh])
        : []
      dropped.push(...parted.map((each) => ({ ...each, isChanged: true })))
    } else if (fresh !== undefined)
      dropped.push(...droppedAway(docs, identities, old, [NEW, fresh]))
    else if (mine !== undefined) dropped.push(...droppedAway(docs, identities, old, [MINE, mine]))
  }
  const all = [...edited, ...dropped]
  const isOutermost = (each: Keys): boolean => !all.some((other) => isInside(each, other))
  // a lone element may be told by its name and by what it holds
  const once = new Map(dropped.map((each) => [each.nodes[OLD], each]))
  return {
    edited: edited.filter(isOutermost),
    dropped: [...once.values()].filter(isOutermost),
    namesakes,
  }
}

/** An entry that one side moved and the other edited, and whether it is enough alike to be taken for one. */
function awayOf(
  docs: Triple<Doc>,
  identities: Identities,
  three: Triple<Placed>,
): { moved: MovedAway; isAlike: boolean } | undefined {
  const [old, fresh, mine] = three
  const by = moverOf(old.container, fresh.container, mine.container)
  if (by === undefined || !isEdited(docs, identities, three, by)) return undefined
  const movers = CHANGED.filter((side) => by === 'both' || (side === NEW) === (by === 'vanilla'))
  const isAlike = movers.some((side) =>
    areAlike(docs, identities, [OLD, old], [side, three[side]], LEAST_ALIKE),
  )
  const { key, place } = by === 'mine' ? mine : fresh
  const nodes = triple((side) => three[side].node)
  return { moved: { nodes, by, key, was: old.key, place }, isAlike }
}

/** An entry that one document alone has beside old, if it stands elsewhere there. */
function droppedAway(
  docs: Triple<Doc>,
  identities: Identities,
  old: Placed,
  [side, now]: readonly [Changed, Placed],
): readonly DroppedAway[] {
  if (now.container === old.container) return []
  const isChanged = !sameContent(docs[OLD], old.node, docs[side], now.node)
  // what is changed is asked, so that less has to speak for it
  const least = isChanged ? PERHAPS : LEAST_ALIKE
  if (!areAlike(docs, identities, [OLD, old], [side, now], least)) return []
  return [
    {
      nodes: [old.node, side === NEW ? now.node : -1, side === MINE ? now.node : -1],
      by: side === NEW ? 'vanilla' : 'mine',
      key: now.key,
      was: old.key,
      container: now.within,
      isChanged,
    },
  ]
}

const CHANGED: readonly Changed[] = [NEW, MINE]

function moverOf(old: string, fresh: string, mine: string): MovedAway['by'] | undefined {
  if (fresh !== old && mine === old) return 'vanilla'
  if (mine !== old && fresh === old) return 'mine'
  return fresh === mine && mine !== old ? 'both' : undefined
}

/** Whether each side put an entry into another container. */
function areParted(old: Placed, fresh: Placed, mine: Placed): boolean {
  return new Set([old.container, fresh.container, mine.container]).size === 3
}

type Keys = Pick<MovedAway, 'key' | 'was'>

/** What stands in an entry that moved has moved with it. */
function isInside(each: Keys, other: Keys): boolean {
  return isWithin(each.was, other.was) && isWithin(each.key, other.key)
}

function isWithin(key: string, around: string): boolean {
  return key.startsWith(around) && /^[/[]/.test(key.slice(around.length))
}

/** Whether the side that left the entry where it was changed it: else nothing hangs on the move. */
function isEdited(
  docs: Triple<Doc>,
  { known }: Identities,
  three: Triple<Placed>,
  by: MovedAway['by'],
): boolean {
  const [old, fresh, mine] = triple((side) => known.values.of(docs[side], three[side].node))
  if (by === 'both') return fresh !== mine
  return (by === 'vanilla' ? mine : fresh) !== old
}

/** Whether an entry of old and the one that was moved are so much alike, from 0 to 1, that they may be one. */
function areAlike(
  docs: Triple<Doc>,
  { known }: Identities,
  old: readonly [Side, Placed],
  moved: readonly [Side, Placed],
  least: number,
): boolean {
  const compared = ([side, { node, siblings }]: readonly [Side, Placed]): Compared => {
    const features = (each: number): Compared['features'] =>
      known.features.of(known.values.of(docs[side], each))
    const rarity = new Rarity(sampled(siblings, MOST_SIBLINGS).map(features))
    return { features: features(node), rarity }
  }
  const { score, counting } = likeness(compared(old), compared(moved))
  return score >= least && (!moved[1].isByName || counting >= LEAST_PARTS)
}

/** A container or an entry on the way to another, and what tells it: an identity, or its place among its siblings. */
interface Step {
  around: Step | undefined
  node: number
  identity?: IdentityExpression | undefined
  index?: number
}

/** The container of an entry, the place of what the entry holds, and what stands beside it. */
interface Beside extends Pick<Placed, 'place' | 'siblings'> {
  container: number
}

/** What is told from its siblings by its name. */
const KEYED: ReadonlySet<Kind> = new Set([Kind.Member, Kind.Property, Kind.Section])

/** Finds entries of a document that are called so, with where they stand. */
class Placer {
  private readonly found = new Map<string, Placed[]>()

  constructor(
    private readonly doc: Doc,
    private readonly identities: Identities,
    private readonly sought: Sought,
  ) {}

  run(): Map<string, Placed[]> {
    const root = this.doc.root()
    if (root >= 0) this.inside(root, undefined, '')
    return this.found
  }

  private inside(container: number, around: Step | undefined, place: string): void {
    const { doc } = this
    const byGroup = new Map<string, number[]>()
    const children = doc.children(container)
    for (const child of children) {
      const kind = doc.kind(child)
      if (KEYED.has(kind)) {
        const name = foldName(doc.format, doc.name(child))
        const step = { around, node: child }
        const own = placeOf(place, name)
        if (kind !== Kind.Section && this.sought.names.has(name))
          this.place(`${kind}:${name}`, step, { place: own, container, siblings: children }, true)
        const held = kind === Kind.Member ? doc.memberValue(child) : child
        if (HOLDING.has(doc.kind(held))) this.inside(held, step, own)
      } else if (kind === Kind.Object || kind === Kind.Array) gather(byGroup, `${kind}:`, child)
      else if (kind === Kind.Element) {
        const name = doc.name(child)
        // most elements are values, and no entry stands in them
        if (this.sought.names.has(name) || !doc.isLeafElement(child))
          gather(byGroup, `${kind}:${name}`, child)
      }
    }
    for (const [group, siblings] of byGroup)
      this.siblings(group, siblings, { around, place, container })
  }

  private siblings(
    group: string,
    siblings: readonly number[],
    { around, place, container }: { around: Step | undefined; place: string; container: number },
  ): void {
    const { doc } = this
    const [first = -1] = siblings
    const kind = doc.kind(first)
    const name = doc.name(first)
    const chosen =
      kind === Kind.Object || kind === Kind.Array
        ? this.identities.ofItems(place, kind)
        : this.identities.ofElements(place, name)
    const own = kind === Kind.Element ? placeOf(place, name) : place
    const isLone = kind === Kind.Element && siblings.length === 1
    const isSought = kind !== Kind.Element || this.sought.names.has(name)
    for (const [index, node] of siblings.entries()) {
      const step: Step = { around, node, identity: chosen?.identity, index }
      if (isSought) this.entry(group, step, { place: own, container, siblings }, { chosen, isLone })
      this.inside(node, step, own)
    }
  }

  /** Keeps an entry by its id; by what it holds, and by its name, where it has none. */
  private entry(
    group: string,
    step: Step,
    at: Beside,
    { chosen, isLone }: { chosen: Chosen | undefined; isLone: boolean },
  ): void {
    const { ids } = this.sought
    const id = this.idOf(step.node, chosen)
    if (id !== undefined) {
      if (ids === 'all' || ids.has(id)) this.place(`${group} ${id}`, step, at, false)
      return
    }
    const value = this.valueOf(step.node)
    if (value !== undefined) this.place(`${group} ${value}`, step, at, false)
    if (isLone) this.place(group, step, at, true)
  }

  private place(name: string, step: Step, at: Beside, isByName: boolean): void {
    gather(this.found, name, {
      node: step.node,
      within: at.container,
      container: this.keyOf(step.around, () => ''),
      key: this.keyOf(step),
      place: at.place,
      siblings: at.siblings,
      isByName,
    })
  }

  /** What an entry without an id holds, if such are looked for and it is not little, which is the same by chance. */
  private valueOf(node: number): string | undefined {
    if (this.sought.dropped.size === 0) return undefined
    const value = this.identities.known.values.of(this.doc, node)
    return value.parts.length < LEAST_PARTS ? undefined : `${BY_VALUE}${value.id}`
  }

  /** What names an entry; where nothing strong was inferred, as of one that stands alone, an id of its own. */
  private idOf(node: number, chosen: Chosen | undefined): string | undefined {
    if (chosen?.isStrong === true) return identityOf(this.doc, node, chosen.identity)?.join('|')
    const step = customarySteps(this.doc, node).find(isId)
    return step === undefined
      ? undefined
      : identityOf(this.doc, node, parseIdentity(step))?.join('|')
  }

  /** @param nameless what stands for an item that no identity tells; the index of a container may change, not the container */
  private keyOf(step: Step | undefined, nameless = (item: Step) => String(item.index)): string {
    if (step === undefined) return ''
    const segment = nodeSegment(this.doc, step.node, step.identity)
    const named = segment === '' ? identitySegment([nameless(step)]) : segment
    return joinKey(this.keyOf(step.around, nameless), named)
  }
}
