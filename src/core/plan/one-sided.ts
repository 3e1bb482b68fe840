import { Kind } from '../document/kind.ts'
import type { Tree } from '../document/tree.ts'
import type { Doc } from '../formats/doc.ts'
import { hasPlainName } from '../formats/doc.ts'
import { canonical } from '../formats/canonical.ts'
import type { IdentityExpression } from '../identity/expression.ts'
import type { Scope } from '../match/tell-apart.ts'
import { nodeSegment } from '../identity/node-segment.ts'
import { sameName, sameSlice } from '../document/same-text.ts'
import type { Triple } from '../document/sides.ts'
import { MINE, NEW, OLD } from '../document/sides.ts'
import { identitySegment, joinKey } from '../keys/key.ts'
import { placeInside } from '../identity/place.ts'
import type { PlanContext } from './context.ts'
import { areOneElement, areSame, haveOneName, identityBeside, sharedIdentity } from './one-entry.ts'
import type { Telling, Where } from './plan.ts'
import type { Nodes } from './telling.ts'

/** The side that changed something, where the other is as old is. */
type ChangedSide = typeof NEW | typeof MINE

/** The side that changed something, and what is told of that so far. */
interface Changes {
  side: ChangedSide
  told: Telling[]
}

/**
 * What one side changed inside an entry that the other left as it was. Nothing can be in conflict there,
 * and the entry is taken as a whole, so two documents are walked side by side as long as they have the same
 * names in the same order; only where they have not, the inside is planned like any other.
 */
export class OneSided {
  /** @param least code units of an entry from which on it is walked through */
  constructor(
    private readonly context: PlanContext,
    private readonly least: number,
  ) {}

  /** @param nodes one node in all documents, the other side's with the same text as old's */
  tellings(side: ChangedSide, nodes: Nodes, where: Where): Telling[] {
    const told: Telling[] = []
    this.tell({ side, told }, nodes, where)
    return told
  }

  private tell(by: Changes, nodes: Nodes, where: Where): void {
    const isLong = (this.context.slice(by.side, nodes)?.length ?? 0) >= this.least
    if (isLong && this.walk(by, nodes, where)) return
    by.told.push({ tell: 'inside', plan: this.context.inside(nodes, where) })
  }

  /** Tells what differs; gives false, and tells nothing, where that takes more than a walk. */
  walk(by: Changes, nodes: Nodes, where: Where): boolean {
    const { side } = by
    const { docs } = this.context
    const kind = docs[OLD].kind(nodes[OLD])
    if (docs[side].kind(nodes[side]) !== kind) return false
    switch (kind) {
      case Kind.Element:
        return this.element(by, nodes, where)
      case Kind.Member: {
        const value = docs[side].memberValue(nodes[side])
        const known = docs[OLD].memberValue(nodes[OLD])
        if (!sameSlice(docs[OLD].tree, known, docs[side].tree, value))
          this.tell(by, this.along(side, nodes, known, value), where)
        return true
      }
      case Kind.Document:
        return this.document(by, nodes, where)
      case Kind.Object:
      case Kind.Array:
      case Kind.Section:
        if (!this.isAligned(side, nodes, where)) return false
        this.children(by, nodes, where)
        return true
      case Kind.Scalar:
      case Kind.Property:
      case Kind.Attribute:
        this.leaf(by, nodes, where)
        return true
      default:
        return false
    }
  }

  /** Nodes inside others: the side that changed nothing has its own where old has it. */
  private along(side: ChangedSide, around: Nodes, old: number, changed: number): Nodes {
    const other = around[otherOf(side)] + old - around[OLD]
    return side === NEW ? [old, changed, other] : [old, other, changed]
  }

  private change({ side, told }: Changes, nodes: Nodes, key: string): void {
    const by = side === NEW ? 'vanilla' : 'mine'
    told.push({ tell: 'change', side: by, kind: 'changed', key, nodes, from: side })
  }

  private leaf(by: Changes, nodes: Nodes, where: Where): void {
    const { side } = by
    const { docs } = this.context
    const isSame = canonical(docs[OLD], nodes[OLD]) === canonical(docs[side], nodes[side])
    if (!isSame) this.change(by, nodes, where.key)
  }

  private element(by: Changes, nodes: Nodes, where: Where): boolean {
    const { side } = by
    const [a, b] = [this.context.docs[OLD], this.context.docs[side]]
    const [old, changed] = [nodes[OLD], nodes[side]]
    if (!sameName(a.tree, old, b.tree, changed)) return false
    const isLeaf = a.isLeafElement(old)
    if (isLeaf !== b.isLeafElement(changed)) return false
    if (!this.isAligned(side, nodes, where)) return false
    this.children(by, nodes, where)
    if (isLeaf && a.elementText(old) !== b.elementText(changed)) this.change(by, nodes, where.key)
    return true
  }

  /** A document is its root; what stands beside that has to be the same. */
  private document(by: Changes, nodes: Nodes, where: Where): boolean {
    const { side } = by
    const [a, b] = [this.context.docs[OLD], this.context.docs[side]]
    const [rootA, rootB] = [a.root(), b.root()]
    if (!a.format.hasOneRoot || rootA < 0 || rootB < 0) return false
    const besideA = a.children(0).filter((node) => node !== rootA)
    const besideB = b.children(0).filter((node) => node !== rootB)
    if (besideA.length !== besideB.length) return false
    if (!besideA.every((node, i) => sameSlice(a.tree, node, b.tree, besideB[i] ?? -1))) return false
    if (!sameSlice(a.tree, rootA, b.tree, rootB))
      this.tell(by, this.along(side, nodes, rootA, rootB), where)
    return true
  }

  /**
   * Whether a container has the same children here as there, in the same order, with the same comments:
   * of a name of its own each, or with an identity that none but it has.
   */
  private isAligned(side: ChangedSide, nodes: Nodes, { place }: Where): boolean {
    const [a, b] = [this.context.docs[OLD], this.context.docs[side]]
    const [stopA, stopB] = [a.tree.next(nodes[OLD]), b.tree.next(nodes[side])]
    const isLeaf = a.kind(nodes[OLD]) === Kind.Element && a.isLeafElement(nodes[OLD])
    const told = new ToldApart(this.context.docs, nodes[OLD], {
      place,
      isDocument: false,
      isOrdered: false,
      identities: this.context.options.identities,
    })
    let [old, changed] = [nodes[OLD] + 1, nodes[side] + 1]
    while (old < stopA && changed < stopB) {
      const kind = a.kind(old)
      if (kind !== b.kind(changed)) return false
      if (isEntry(kind)) {
        if (kind !== Kind.Object && kind !== Kind.Array && !sameName(a.tree, old, b.tree, changed))
          return false
        if (!told.add(this.along(side, nodes, old, changed))) return false
      } else {
        const isValue = isLeaf && kind === Kind.Text
        if (!isValue && (isLeaf || !sameSlice(a.tree, old, b.tree, changed))) return false
      }
      old = a.tree.next(old) ?? stopA
      changed = b.tree.next(changed) ?? stopB
    }
    return old >= stopA && changed >= stopB
  }

  private children(by: Changes, nodes: Nodes, where: Where): void {
    const { side } = by
    const { docs } = this.context
    const [a, b] = [docs[OLD].tree, docs[side].tree]
    const stop = a.next(nodes[OLD])
    let changed = nodes[side] + 1
    for (let old = nodes[OLD] + 1; old < stop; old = a.next(old)) {
      if (isEntry(docs[OLD].kind(old)) && !sameSlice(a, old, b, changed)) {
        const three = this.along(side, nodes, old, changed)
        const key = joinKey(where.key, this.segment(three, where.place))
        const place = placeInside(this.context.docs[MINE], three[MINE], where.place)
        this.tell(by, three, { key, place })
      }
      changed = b.next(changed)
    }
  }

  /** The last segment of the key of a child that has a name of its own. */
  private segment(nodes: Nodes, place: string): string {
    const { docs, options } = this.context
    const doc = docs[MINE]
    const kind = doc.kind(nodes[MINE])
    const isItem = kind === Kind.Object || kind === Kind.Array
    const identity = isItem
      ? options.identities.ofItems(place, kind)?.identity
      : kind === Kind.Element
        ? identityBeside(docs, nodes, { place, identities: options.identities })
        : undefined
    const segment = nodeSegment(doc, nodes[MINE], identity)
    return segment === '' ? identitySegment([]) : segment
  }
}

function otherOf(side: ChangedSide): ChangedSide {
  return side === NEW ? MINE : NEW
}

function isEntry(kind: Kind): boolean {
  return (
    kind === Kind.Element ||
    kind === Kind.Attribute ||
    kind === Kind.Member ||
    kind === Kind.Property ||
    kind === Kind.Object ||
    kind === Kind.Array
  )
}

/** Longer containers are merged: here each name is compared with all before it. */
const MOST_UNITS = 24

/** The entries of one container, as long as each can be told from those before it. */
class ToldApart {
  /** Nodes of old that have a name of their own. */
  private readonly named: number[] = []
  private readonly identities = new Set<string>()

  constructor(
    private readonly docs: Triple<Doc>,
    /** The container in old. */
    private readonly container: number,
    private readonly scope: Scope,
  ) {}

  /** Takes in an entry; gives false where it is not the one entry of its name or identity in all documents. */
  add(nodes: Nodes): boolean {
    const doc = this.docs[OLD]
    const kind = doc.kind(nodes[OLD])
    if (kind === Kind.Object || kind === Kind.Array) {
      if (isOnlyItem(doc.tree, this.container, nodes[OLD]) && areSame(this.docs, nodes)) return true
      const ofItems = this.scope.identities.ofItems(this.scope.place, kind)?.identity
      return ofItems !== undefined && this.addIdentity(nodes, `${kind}`, ofItems)
    }
    if (kind !== Kind.Element) return this.addName(nodes[OLD])
    const name = doc.name(nodes[OLD])
    const { identities, place } = this.scope
    const identity = identityBeside(this.docs, nodes, this.scope)
    if (identity === undefined) return haveOneName(this.docs, nodes) && this.addName(nodes[OLD])
    if (identities.isConfigured(place, name))
      return areOneElement(this.docs, nodes, this.scope) && this.addName(nodes[OLD])
    return !this.isTaken(nodes[OLD]) && this.addIdentity(nodes, name, identity)
  }

  private addName(node: number): boolean {
    if (this.named.length >= MOST_UNITS || this.isTaken(node)) return false
    if (this.identities.size > 0 && this.docs[OLD].kind(node) === Kind.Element) return false
    this.named.push(node)
    return hasPlainName(this.docs[OLD].tree, node)
  }

  /** Whether an entry before has this one's name; an attribute and an element may share one. */
  private isTaken(node: number): boolean {
    const { tree } = this.docs[OLD]
    return this.named.some(
      (other) => tree.kind(other) === tree.kind(node) && sameName(tree, other, tree, node),
    )
  }

  private addIdentity(nodes: Nodes, name: string, identity: IdentityExpression): boolean {
    const shared = sharedIdentity(this.docs, nodes, identity)
    if (shared === undefined) return false
    const count = this.identities.size
    return this.identities.add(`${name}\0${shared}`).size > count
  }
}

/** Whether an item of an array is its only one: then nothing has to tell it apart. */
function isOnlyItem(tree: Tree, array: number, item: number): boolean {
  const stop = tree.next(array)
  for (let child = array + 1; child < stop; child = tree.next(child))
    if (child !== item && tree.kind(child) !== Kind.Comment) return false
  return true
}
