import { HOLDING, Kind } from '../document/kind.ts'
import type { Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import type { UnitList } from '../document/unit-list.ts'
import { attributeUnits, contentUnits } from '../document/unit-list.ts'
import type { Doc } from '../formats/doc.ts'
import type { Identities } from '../identity/identities.ts'
import { placeInside } from '../identity/place.ts'
import { ValueCarry } from '../match/carry-values.ts'
import { matchUnits } from '../match/match-units.ts'
import { scopeOf } from '../match/tell-apart.ts'
import { Entries } from './entries.ts'
import type { Where } from './plan.ts'
import type { Nodes } from './telling.ts'

/** A key, and the node that it names in each document; -1 where it is not there. */
export interface KeyedNodes {
  key: string
  nodes: Nodes
}

/** Every key of three documents, also of what nobody changed. @param present which of them there are */
export function everyKey(
  docs: Triple<Doc>,
  present: Triple<boolean>,
  identities: Identities,
): Generator<KeyedNodes> {
  const nodes = triple((side) => (present[side] ? 0 : -1))
  return new KeyWalk(docs, identities).inside(nodes, { key: '', place: '' })
}

class KeyWalk {
  private readonly values: ValueCarry

  constructor(
    private readonly docs: Triple<Doc>,
    private readonly identities: Identities,
  ) {
    this.values = new ValueCarry(identities)
  }

  *inside(nodes: Nodes, where: Where): Generator<KeyedNodes> {
    const { docs } = this
    const first = ([MINE, NEW, OLD] as const).find((side) => nodes[side] >= 0)
    if (first === undefined) return
    const kind = docs[first].kind(nodes[first])
    const alike = triple((side) =>
      nodes[side] >= 0 && docs[side].kind(nodes[side]) === kind ? nodes[side] : -1,
    )
    if (kind === Kind.Member) {
      const values = triple((side) => (alike[side] < 0 ? -1 : docs[side].memberValue(alike[side])))
      yield* this.inside(values, where)
      return
    }
    if (!HOLDING.has(kind)) return
    if (kind === Kind.Element)
      yield* this.list(alike, where, Kind.Attribute, (doc, node) => attributeUnits(doc.tree, node))
    yield* this.list(alike, where, kind, (doc, node) =>
      kind === Kind.Element && doc.isLeafElement(node)
        ? undefined
        : contentUnits(doc.tree, node, doc.format.separator),
    )
  }

  private *list(
    nodes: Nodes,
    where: Where,
    kind: Kind,
    unitsOf: (doc: Doc, node: number) => UnitList | undefined,
  ): Generator<KeyedNodes> {
    const { docs, identities } = this
    const lists = triple((side) => (nodes[side] < 0 ? undefined : unitsOf(docs[side], nodes[side])))
    const scope = scopeOf(kind, where.place, docs[MINE].format.hasOneRoot, identities)
    const container = { docs, lists, apart: undefined, dormant: undefined }
    const matching = matchUnits(container, scope, this.values)
    const entries = new Entries(matching, lists, where.key)
    for (let cls = 0; cls < matching.length; cls++) {
      if (matching.isVoid(cls) || entries.isComment(cls)) continue
      const key = entries.keyOf(cls)
      const inner = entries.nodesOf(cls)
      const side = ([MINE, NEW, OLD] as const).find((each) => inner[each] >= 0) ?? OLD
      if (key !== where.key) yield { key, nodes: inner }
      yield* this.inside(inner, { key, place: placeInside(docs[side], inner[side], where.place) })
    }
  }
}
