import { Kind } from '../document/kind.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'
import type { Doc } from '../formats/doc.ts'
import { foldName } from '../formats/format.ts'
import type { Chosen, Identities } from '../identity/identities.ts'
import { identityText } from '../identity/expression.ts'
import { nodeSegment } from '../identity/node-segment.ts'
import { placeOf } from '../identity/place.ts'
import { identitySegment, joinKey } from '../keys/key.ts'
import { likeness, Rarity } from '../likeness/features.ts'
import type { Compared } from '../likeness/features.ts'

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

/** Such entries agree in so much of what counts. */
const LEAST_ALIKE = 0.7

/** An entry that an identity tells, and where it stands. */
interface Placed {
  node: number
  /** The key of its container. */
  container: string
  key: string
  place: string
  /** All that stand beside it, itself among them. */
  siblings: readonly number[]
}

/**
 * The entries that a side moved to another container while the other side edited them: told by a name that
 * was meant to name entries, the only ones of it in each document, and much alike.
 */
export function movedAway(docs: Triple<Doc>, identities: Identities): MovedAway[] {
  const placed = triple((side) => new Placer(docs[side], identities).run())
  const found: MovedAway[] = []
  for (const [name, inOld] of placed[OLD]) {
    const all = [inOld, placed[NEW].get(name) ?? [], placed[MINE].get(name) ?? []]
    const [old, fresh, mine] = all.map((each) => (each.length === 1 ? each[0] : undefined))
    if (old === undefined || fresh === undefined || mine === undefined) continue
    const by = moverOf(old.container, fresh.container, mine.container)
    if (by === undefined) continue
    const three: Triple<Placed> = [old, fresh, mine]
    if (!isEdited(docs, identities, three, by) || !areAlike(docs, identities, three, by)) continue
    const { key, place } = by === 'mine' ? mine : fresh
    const nodes = triple((side) => three[side].node)
    found.push({ nodes, by, key, was: old.key, place })
  }
  return found.filter((each) => !found.some((other) => isInside(each, other)))
}

function moverOf(old: string, fresh: string, mine: string): MovedAway['by'] | undefined {
  if (fresh !== old && mine === old) return 'vanilla'
  if (mine !== old && fresh === old) return 'mine'
  return fresh === mine && mine !== old ? 'both' : undefined
}

/** What stands in an entry that moved has moved with it. */
function isInside(each: MovedAway, other: MovedAway): boolean {
  return each.was.startsWith(`${other.was}/`) && each.key.startsWith(`${other.key}/`)
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

/** Whether an entry of old and the one that was moved are much alike; what the other side edited does not count. */
function areAlike(
  docs: Triple<Doc>,
  { known }: Identities,
  three: Triple<Placed>,
  by: MovedAway['by'],
): boolean {
  const compared = (side: Side): Compared => {
    const features = (node: number): Compared['features'] =>
      known.features.of(known.values.of(docs[side], node))
    const { node, siblings } = three[side]
    return { features: features(node), rarity: new Rarity(siblings.map(features)) }
  }
  const [old, fresh, mine] = SIDES.map(compared)
  if (old === undefined || fresh === undefined || mine === undefined) return false
  const moved = by === 'vanilla' ? [fresh] : by === 'mine' ? [mine] : [fresh, mine]
  return moved.some((side) => likeness(old, side).score >= LEAST_ALIKE)
}

/** Finds the entries of a document that an identity of their own tells, with where they stand. */
class Placer {
  private readonly found = new Map<string, Placed[]>()

  constructor(
    private readonly doc: Doc,
    private readonly identities: Identities,
  ) {}

  run(): Map<string, Placed[]> {
    const root = this.doc.root()
    if (root >= 0) this.inside(root, '', '')
    return this.found
  }

  private inside(container: number, key: string, place: string): void {
    const { doc } = this
    const byGroup = new Map<string, number[]>()
    for (const child of doc.children(container)) {
      const name = foldName(doc.format, doc.name(child))
      switch (doc.kind(child)) {
        case Kind.Member:
          this.inside(
            doc.memberValue(child),
            joinKey(key, nodeSegment(doc, child, undefined)),
            placeOf(place, name),
          )
          break
        case Kind.Section:
          this.inside(child, joinKey(key, nodeSegment(doc, child, undefined)), placeOf(place, name))
          break
        case Kind.Element:
        case Kind.Object:
        case Kind.Array: {
          const group = `${doc.kind(child)}:${name}`
          byGroup.set(group, [...(byGroup.get(group) ?? []), child])
          break
        }
        default:
          break
      }
    }
    for (const [group, siblings] of byGroup) this.siblings(group, siblings, key, place)
  }

  private siblings(
    group: string,
    siblings: readonly number[],
    container: string,
    place: string,
  ): void {
    const { doc } = this
    for (const node of siblings) {
      const name = doc.name(node)
      const isElement = doc.kind(node) === Kind.Element
      const chosen = this.chosenFor(node, name, place)
      const own = isElement ? placeOf(place, name) : place
      const segment = nodeSegment(doc, node, chosen?.identity)
      const key = joinKey(container, segment === '' ? identitySegment(['']) : segment)
      const id = chosen?.isStrong === true ? identityText(doc, node, chosen.identity) : undefined
      if (id !== undefined) {
        const known = this.found.get(`${group} ${id}`)
        const entry = { node, container, key, place: own, siblings }
        if (known === undefined) this.found.set(`${group} ${id}`, [entry])
        else known.push(entry)
      }
      this.inside(node, key, own)
    }
  }

  private chosenFor(node: number, name: string, place: string): Chosen | undefined {
    const kind = this.doc.kind(node)
    return kind === Kind.Object || kind === Kind.Array
      ? this.identities.ofItems(place, kind)
      : this.identities.ofElements(place, name)
  }
}
