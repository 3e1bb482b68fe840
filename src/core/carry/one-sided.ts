import { Kind } from '../document/kind.ts'
import { hasPlainName } from '../formats/doc.ts'
import { canonical } from '../formats/canonical.ts'
import { areOneElement, isChildless, MOST_UNITS } from '../identity/aligned.ts'
import { identityOf } from '../identity/expression.ts'
import { sameName, sameSlice } from '../identity/links.ts'
import type { Side } from '../identity/sides.ts'
import { MINE, NEW, OLD } from '../identity/sides.ts'
import { identitySegment, joinKey, quoteName } from '../keys/key.ts'
import type { Merge, Where } from './merge.ts'
import type { Nodes } from './recorder.ts'

/** The side that changed something, where the other is as old is. */
export type ChangedSide = typeof NEW | typeof MINE

/**
 * Tells what one side changed inside an entry that the other left as it was. Nothing can be in conflict
 * there and nothing is written, so two documents are walked side by side as long as they have the same
 * names in the same order; only where they have not, the entry is merged like any other.
 */
export class OneSided {
  constructor(private readonly merge: Merge) {}

  /** @param nodes one node in all documents, the other side's with the same text as old's */
  tell(side: ChangedSide, nodes: Nodes, where: Where): void {
    if (this.isFollowed(side, nodes) && this.walk(side, nodes, where)) return
    this.merge.writer.muted(() => {
      this.merge.descend(nodes, where)
    })
  }

  /** Whether the side that changed nothing has the same nodes as old, one by one. */
  private isFollowed(side: ChangedSide, nodes: Nodes): boolean {
    const other = otherOf(side)
    const [a, b] = [this.merge.docs[OLD].tree, this.merge.docs[other].tree]
    const count = (a.next[nodes[OLD]] ?? 0) - nodes[OLD]
    return count === (b.next[nodes[other]] ?? 0) - nodes[other]
  }

  /** Tells what differs; gives false, and tells nothing, where that takes more than a walk. */
  private walk(side: ChangedSide, nodes: Nodes, where: Where): boolean {
    const { docs } = this.merge
    const kind = docs[OLD].kind(nodes[OLD])
    if (docs[side].kind(nodes[side]) !== kind) return false
    switch (kind) {
      case Kind.Element:
        return this.element(side, nodes, where)
      case Kind.Member: {
        const value = docs[side].memberValue(nodes[side])
        const known = docs[OLD].memberValue(nodes[OLD])
        this.tell(side, this.along(side, nodes, known, value), where)
        return true
      }
      case Kind.Object:
      case Kind.Section:
        if (!this.isAligned(side, nodes, where)) return false
        this.children(side, nodes, where)
        return true
      case Kind.Scalar:
      case Kind.Property:
      case Kind.Attribute:
        this.leaf(side, nodes, where)
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

  private change(side: ChangedSide, nodes: Nodes, key: string): void {
    this.merge.record.change(side === NEW ? 'vanilla' : 'mine', 'changed', nodes, key, side)
  }

  private leaf(side: ChangedSide, nodes: Nodes, where: Where): void {
    const { docs } = this.merge
    const isSame = canonical(docs[OLD], nodes[OLD]) === canonical(docs[side], nodes[side])
    if (!isSame) this.change(side, nodes, where.key)
  }

  private element(side: ChangedSide, nodes: Nodes, where: Where): boolean {
    const [a, b] = [this.merge.docs[OLD], this.merge.docs[side]]
    const [old, changed] = [nodes[OLD], nodes[side]]
    if (!sameName(a.tree, old, b.tree, changed)) return false
    const isLeaf = a.isLeafElement(old)
    if (isLeaf !== b.isLeafElement(changed)) return false
    if (!this.isAligned(side, nodes, where)) return false
    this.children(side, nodes, where)
    if (isLeaf && a.elementText(old) !== b.elementText(changed)) this.change(side, nodes, where.key)
    return true
  }

  /**
   * Whether a container has the same children here as there: of other names each, in the same order,
   * with the same comments.
   */
  private isAligned(side: ChangedSide, nodes: Nodes, { place }: Where): boolean {
    const { docs, options } = this.merge
    const [a, b] = [docs[OLD], docs[side]]
    const [stopA, stopB] = [a.tree.next[nodes[OLD]] ?? 0, b.tree.next[nodes[side]] ?? 0]
    const isLeaf = a.kind(nodes[OLD]) === Kind.Element && a.isLeafElement(nodes[OLD])
    const scope = { place, isDocument: false, identities: options.identities }
    let count = 0
    let [old, changed] = [nodes[OLD] + 1, nodes[side] + 1]
    while (old < stopA && changed < stopB) {
      const kind = a.kind(old)
      if (kind !== b.kind(changed) || ++count > MOST_UNITS) return false
      if (!isNamed(kind)) {
        const isValue = isLeaf && kind === Kind.Text
        if (!isValue && (isLeaf || !sameSlice(a.tree, old, b.tree, changed))) return false
      } else {
        if (!sameName(a.tree, old, b.tree, changed)) return false
        if (this.isNameTaken(nodes[OLD], old) || !hasPlainName(a.tree, old)) return false
        if (kind === Kind.Element) {
          const three = this.along(side, nodes, old, changed)
          if (!areOneElement(docs, three, scope)) return false
        }
      }
      old = a.tree.next[old] ?? stopA
      changed = b.tree.next[changed] ?? stopB
    }
    return old >= stopA && changed >= stopB
  }

  /** Whether a child before this one has its name; an attribute and an element may share one. */
  private isNameTaken(parent: number, child: number): boolean {
    const { tree } = this.merge.docs[OLD]
    for (let other = parent + 1; other < child; other = tree.next[other] ?? child) {
      if (tree.kind[other] === tree.kind[child] && sameName(tree, other, tree, child)) return true
    }
    return false
  }

  private children(side: ChangedSide, nodes: Nodes, where: Where): void {
    const { docs } = this.merge
    const [a, b] = [docs[OLD].tree, docs[side].tree]
    const stop = a.next[nodes[OLD]] ?? 0
    let changed = nodes[side] + 1
    for (let old = nodes[OLD] + 1; old < stop; old = a.next[old] ?? stop) {
      if (isNamed(docs[OLD].kind(old)) && !sameSlice(a, old, b, changed)) {
        const three = this.along(side, nodes, old, changed)
        const key = joinKey(where.key, this.segment(three, where.place))
        const place = this.merge.placeInside(MINE, three[MINE], where.place)
        this.tell(side, three, { key, place })
      }
      changed = b.next[changed] ?? 0
    }
  }

  /** The last segment of the key of a child that has a name of its own. */
  private segment(nodes: Nodes, place: string): string {
    const { docs, options } = this.merge
    const doc = docs[MINE]
    const name = doc.name(nodes[MINE])
    const shown = quoteName(name)
    const kind = doc.kind(nodes[MINE])
    if (kind === Kind.Attribute) return `@${shown}`
    if (kind !== Kind.Element) return shown
    const isPlain = docs.every((each, of) => isChildless(each, nodes[of as Side] ?? 0))
    if (isPlain && !options.identities.isConfigured(place, name)) return shown
    const identity = options.identities.ofElements(place, name)
    const found = identity === undefined ? undefined : identityOf(doc, nodes[MINE], identity)
    return found === undefined ? shown : shown + identitySegment(found)
  }
}

function otherOf(side: ChangedSide): ChangedSide {
  return side === NEW ? MINE : NEW
}

function isNamed(kind: Kind): boolean {
  return (
    kind === Kind.Element ||
    kind === Kind.Attribute ||
    kind === Kind.Member ||
    kind === Kind.Property
  )
}
