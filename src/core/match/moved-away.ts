import { gather } from '../document/gather.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'
import { sameContent } from '../formats/canonical.ts'
import type { Doc } from '../formats/doc.ts'
import { shownValue } from '../formats/shown-value.ts'
import type { Identities } from '../identity/identities.ts'
import { isBelow } from '../keys/key.ts'
import { likeness, Rarity } from '../likeness/features.ts'
import type { Compared } from '../likeness/features.ts'
import { sampled } from '../likeness/sampled.ts'
import type { Changed } from './links.ts'
import { BesideMoved } from './beside-moved.ts'
import type { ByName, Placed, Sought } from './placer.ts'
import { BY_VALUE, LEAST_PARTS, Placer } from './placer.ts'
import type { Shared } from '../likeness/shared-values.ts'
import { sharedValues } from '../likeness/shared-values.ts'

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
  /** Whether the removal may not follow the entry unasked: it was changed, too, or went by itself. */
  isAsked: boolean
}

/** Such entries agree in so much of what counts. */
const LEAST_ALIKE = 0.7
/** From this likeness on what is asked may be one. */
const PERHAPS = 0.3
/** So many siblings tell how rare a value is. */
const MOST_SIBLINGS = 64

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
 * that was meant to name entries, or by that of a member or a lone element, the only ones of it in each document
 * beside those that stand where they stood, and much alike.
 */
export function movedAway(docs: Triple<Doc>, identities: Identities, sought: Sought): Moved {
  if (sought.ids !== 'all' && sought.ids.size === 0)
    return { edited: [], dropped: [], namesakes: new Map() }
  const placed = triple((side) => new Placer(docs[side], identities, sought).run())
  const beside = new BesideMoved(docs, identities)
  const edited: MovedAway[] = []
  const dropped: DroppedAway[] = []
  const namesakes = new Map<number, string>()
  for (const name of placed[OLD].keys()) {
    const [[old, ...others], inNew, inMine] = notStaying(placed, name)
    if (old === undefined || others.length > 0 || inNew.length > 1 || inMine.length > 1) continue
    if (name.includes(BY_VALUE) && !sought.dropped.has(shownValue(docs[OLD], old.node) ?? ''))
      continue
    const [[fresh], [mine]] = [inNew, inMine]
    if (fresh !== undefined && mine !== undefined) {
      const away = awayOf(docs, identities, [old, fresh, mine])
      if (away?.isAlike === true) edited.push(away.moved)
      else if (away !== undefined) namesakes.set(old.node, away.moved.key)
      // what each put elsewhere stands in both places, which is asked
      if (areParted(old, fresh, mine))
        dropped.push(...droppedAway(docs, identities, old, [NEW, fresh]))
    } else if (fresh !== undefined)
      dropped.push(...droppedAway(docs, identities, old, [NEW, fresh], beside))
    else if (mine !== undefined)
      dropped.push(...droppedAway(docs, identities, old, [MINE, mine], beside))
  }
  dropped.push(...changedAway(docs, identities, placed, sought))
  const all = [...edited, ...dropped]
  const isOutermost = (each: Keys): boolean => !all.some((other) => isInside(each, other))
  return {
    edited: edited.filter(isOutermost),
    dropped: eachOnce(dropped, edited).filter(isOutermost),
    namesakes,
  }
}

/** A lone element may be told by its name and by what it holds, and several of old's be like one: each is one once. */
function eachOnce(
  dropped: readonly DroppedAway[],
  edited: readonly MovedAway[],
): readonly DroppedAway[] {
  const taken = triple((side) => new Set(edited.map(({ nodes }) => nodes[side])))
  const once: DroppedAway[] = []
  for (const each of dropped) {
    const { nodes } = each
    if (SIDES.some((side) => nodes[side] >= 0 && taken[side].has(nodes[side]))) continue
    for (const side of SIDES) taken[side].add(nodes[side])
    once.push(each)
  }
  return once
}

/** The entries of a name in each document, but for those that stand in one container in all three. */
function notStaying(placed: Triple<ByName>, name: string): Triple<readonly Placed[]> {
  const all = triple((side) => placed[side].get(name) ?? [])
  const stays = ({ container }: Placed): boolean =>
    all.every((ofSide) => ofSide.some((each) => each.container === container))
  return triple((side) => all[side].filter((each) => !stays(each)))
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

/**
 * An entry that one document alone has beside old, if it stands elsewhere there. Its removal follows it unasked
 * where what stood beside it went there, too: one that went by itself may as well be gone, and another put there.
 */
function droppedAway(
  docs: Triple<Doc>,
  identities: Identities,
  old: Placed,
  [side, now]: readonly [Changed, Placed],
  beside?: BesideMoved,
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
      isAsked: isChanged || beside?.haveGone(side, old, now) !== true,
    },
  ]
}

/**
 * Entries without an id that both dropped where they were, each with what a side alone has elsewhere that shares
 * more with it than anything else does, and is not the same.
 */
function changedAway(
  docs: Triple<Doc>,
  identities: Identities,
  placed: Triple<ByName>,
  { dropped }: Sought,
): readonly DroppedAway[] {
  const lost = ownByValue(placed, OLD).filter(({ entry }) =>
    dropped.has(shownValue(docs[OLD], entry.node) ?? ''),
  )
  if (lost.length === 0) return []
  const { features, values } = identities.known
  return CHANGED.flatMap((side) => {
    const own = ownByValue(placed, side)
    const featuresOf = (of: Side, { entry }: Unnamed): Compared['features'] =>
      features.of(values.of(docs[of], entry.node))
    const pairs = sharedValues(
      lost.map((each) => featuresOf(OLD, each)),
      own.map((each) => featuresOf(side, each)),
      1,
    )
    const ofOne = new Map<number, Shared[]>()
    for (const pair of pairs)
      if (lost[pair.one]?.group === own[pair.other]?.group) gather(ofOne, pair.one, pair)
    return lost.flatMap(({ entry }, one) => {
      const ranked = ofOne.get(one) ?? []
      const [best, second] = ranked.sort((a, b) => b.times - a.times)
      const now = own[best?.other ?? -1]
      if (now === undefined || best?.times === second?.times) return []
      return droppedAway(docs, identities, entry, [side, now.entry])
    })
  })
}

/** An entry without an id. */
interface Unnamed {
  group: string
  entry: Placed
}

/** The entries without an id that one document alone has so. */
function ownByValue(placed: Triple<ByName>, side: Side): Unnamed[] {
  const others = SIDES.filter((each) => each !== side)
  return [...placed[side]].flatMap(([name, [entry]]) => {
    const at = name.indexOf(BY_VALUE)
    const isShared = others.some((other) => placed[other].has(name))
    return at < 0 || isShared || entry === undefined ? [] : [{ group: name.slice(0, at), entry }]
  })
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
  return isBelow(each.was, other.was) && isBelow(each.key, other.key)
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
