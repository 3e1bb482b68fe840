import { detached } from '../document/characters.ts'
import type { Position } from '../document/line-map.ts'
import { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import { innerChanges } from './inner-changes.ts'
import type {
  ChangeKind,
  ChangeSide,
  ConflictKind,
  InnerChange,
  InputName,
  Ledger,
  Types,
} from './ledger.ts'
import { decodedValue, jsonType, shownValue } from './values.ts'

/** The node of one entry in old, new and mine; -1 where it is not there. */
export type Nodes = Triple<number>

/** Tells the ledger what became of nodes: their values as they stand in the sources, and their places. */
export class Recorder {
  constructor(
    private readonly docs: Triple<Doc>,
    private readonly ledger: Ledger,
    /** The key whose places are told with its change. */
    private readonly explain: string | undefined,
  ) {}

  /** A change. `from` is the side whose value stands, undefined where nothing does. */
  change(
    what: { side: ChangeSide; kind: ChangeKind; was?: string },
    nodes: Nodes,
    key: string,
    from: Side | undefined,
  ): void {
    const result = from === undefined ? null : this.shown(from, nodes)
    this.ledger.change({
      key,
      ...what,
      old: this.shown(OLD, nodes),
      new: this.shown(NEW, nodes),
      mine: this.shown(MINE, nodes),
      result,
      ...this.types(nodes),
      ...(key === this.explain ? { at: this.places(nodes) } : {}),
    })
  }

  /** A key whose result was made from all three: a value that holds a list. */
  made(nodes: Nodes, key: string, result: string): void {
    const [old, fresh, mine] = triple((side) => this.shown(side, nodes))
    this.ledger.change({ key, side: 'both', kind: 'changed', old, new: fresh, mine, result })
  }

  /**
   * A key that both sides changed differently.
   *
   * @param more.commentedOut the comment of mine in which an entry stands that mine has no more, or -1
   * @param more.tied the keys that are one question with this one; it is added to them
   */
  conflict(
    kind: ConflictKind,
    nodes: Nodes,
    key: string,
    more: { commentedOut?: number; tied?: string[] } = {},
  ): void {
    const { commentedOut = -1, tied } = more
    const at = this.places(nodes)
    if (commentedOut >= 0) at.mine = this.start(MINE, commentedOut)
    tied?.push(detached(key))
    this.ledger.conflict(
      {
        key,
        kind,
        old: this.shown(OLD, nodes),
        new: this.shown(NEW, nodes),
        mine: this.shown(MINE, nodes),
        result: this.shown(MINE, nodes),
        at,
        ...this.inside(kind, nodes),
        ...this.types(nodes),
        ...(tied === undefined ? {} : { together: tied }),
      },
      triple((side) => decodedValue(this.docs[side], nodes[side])),
    )
  }

  /** Of an entry that is gone on one side: what the other changed in it. */
  private inside(kind: ConflictKind, nodes: Nodes): { inside?: InnerChange[] } {
    const side = kind === 'gone-in-vanilla' ? MINE : kind === 'gone-in-mine' ? NEW : undefined
    if (side === undefined || nodes[OLD] < 0 || nodes[side] < 0) return {}
    return { inside: innerChanges(this.docs[OLD], nodes[OLD], this.docs[side], nodes[side]) }
  }

  /** Where the thing that a key names begins: a JSON value's member, where it has one. */
  private place(side: Side, node: number): number {
    const { tree } = this.docs[side]
    const isMembers =
      node > 0 && tree.kind(node - 1) === Kind.Member && tree.end(node - 1) === tree.end(node)
    return tree.start(isMembers ? node - 1 : node)
  }

  private places(nodes: Nodes): Record<InputName, Position | null> {
    const position = (side: Side): Position | null =>
      nodes[side] < 0 ? null : this.docs[side].lines.at(this.place(side, nodes[side]))
    return { old: position(OLD), new: position(NEW), mine: position(MINE) }
  }

  private start(side: Side, node: number): Position {
    return this.docs[side].lines.at(this.docs[side].tree.start(node))
  }

  private shown(side: Side, nodes: Nodes): string | null {
    return nodes[side] < 0 ? null : shownValue(this.docs[side], nodes[side])
  }

  private types(nodes: Nodes): { types?: Types } {
    const [old, fresh, mine] = triple((side) =>
      nodes[side] < 0 ? undefined : jsonType(this.docs[side], nodes[side]),
    )
    const distinct = new Set([old, fresh, mine].filter((type) => type !== undefined))
    if (distinct.size < 2) return {}
    return { types: { old: old ?? null, new: fresh ?? null, mine: mine ?? null } }
  }
}
