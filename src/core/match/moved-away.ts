import { gather } from '../document/gather.ts'
import { Kind } from '../document/kind.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'
import type { Doc } from '../formats/doc.ts'
import { foldName } from '../formats/format.ts'
import { customarySteps, isId } from '../identity/candidates.ts'
import type { Identities } from '../identity/identities.ts'
import type { IdentityExpression } from '../identity/expression.ts'
import { identityOf, parseIdentity } from '../identity/expression.ts'
import { nodeSegment } from '../identity/node-segment.ts'
import { placeOf } from '../identity/place.ts'
import { identitySegment, joinKey } from '../keys/key.ts'
import { likeness, Rarity } from '../likeness/features.ts'
import type { Compared } from '../likeness/features.ts'
import { sampled } from '../likeness/sampled.ts'

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
/** So many siblings tell how rare a value is. */
const MOST_SIBLINGS = 64

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
 *
 * @param called the names of the entries that are looked for
 */
export function movedAway(
  docs: Triple<Doc>,
  identities: Identities,
  called: ReadonlySet<string>,
): MovedAway[] {
  if (called.size === 0) return []
  const placed = triple((side) => new Placer(docs[side], identities, called).run())
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
    const rarity = new Rarity(sampled(siblings, MOST_SIBLINGS).map(features))
    return { features: features(node), rarity }
  }
  const [old, fresh, mine] = SIDES.map(compared)
  if (old === undefined || fresh === undefined || mine === undefined) return false
  const moved = by === 'vanilla' ? [fresh] : by === 'mine' ? [mine] : [fresh, mine]
  return moved.some((side) => likeness(old, side).score >= LEAST_ALIKE)
}

/** A container or an entry on the way to another, and what tells it. */
interface Step {
  around: Step | undefined
  node: number
  identity: IdentityExpression | undefined
}

/** Finds entries of a document that are called so, with where they stand. */
class Placer {
  private readonly found = new Map<string, Placed[]>()

  constructor(
    private readonly doc: Doc,
    private readonly identities: Identities,
    private readonly called: ReadonlySet<string>,
  ) {}

  run(): Map<string, Placed[]> {
    const root = this.doc.root()
    if (root >= 0) this.inside(root, undefined, '')
    return this.found
  }

  private inside(container: number, around: Step | undefined, place: string): void {
    const { doc } = this
    const byGroup = new Map<string, number[]>()
    for (const child of doc.children(container)) {
      const kind = doc.kind(child)
      if (kind === Kind.Member || kind === Kind.Section) {
        const held = kind === Kind.Member ? doc.memberValue(child) : child
        if (doc.kind(held) === Kind.Scalar) continue
        const name = foldName(doc.format, doc.name(child))
        this.inside(held, { around, node: child, identity: undefined }, placeOf(place, name))
      } else if (kind === Kind.Element || kind === Kind.Object || kind === Kind.Array)
        gather(byGroup, `${kind}:${doc.name(child)}`, child)
    }
    for (const [group, siblings] of byGroup) this.siblings(group, siblings, around, place)
  }

  private siblings(
    group: string,
    siblings: readonly number[],
    around: Step | undefined,
    place: string,
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
    for (const node of siblings) {
      const step = { around, node, identity: chosen?.identity }
      const named = chosen?.isStrong === true ? chosen.identity : this.ofLoneOne(siblings)
      const id = named === undefined ? undefined : identityOf(doc, node, named)?.join('|')
      if (id !== undefined && this.called.has(id))
        gather(this.found, `${group} ${id}`, {
          node,
          container: this.keyOf(around),
          key: this.keyOf(step),
          place: own,
          siblings,
        })
      this.inside(node, step, own)
    }
  }

  /** Where one entry of a name stands, nothing was inferred: an id tells it all the same. */
  private ofLoneOne([lone, ...others]: readonly number[]): IdentityExpression | undefined {
    if (lone === undefined || others.length > 0) return undefined
    const step = customarySteps(this.doc, lone).find(isId)
    return step === undefined ? undefined : parseIdentity(step)
  }

  private keyOf(step: Step | undefined): string {
    if (step === undefined) return ''
    const segment = nodeSegment(this.doc, step.node, step.identity)
    return joinKey(this.keyOf(step.around), segment === '' ? identitySegment(['']) : segment)
  }
}
