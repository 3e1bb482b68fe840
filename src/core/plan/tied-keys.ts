import { Kind } from '../document/kind.ts'
import { canonical } from '../formats/canonical.ts'
import type { Doc } from '../formats/doc.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import type { Nodes } from './telling.ts'

/** Keys that only make sense together: their places from the place that they share. */
interface Group {
  paths: string[][]
}

/**
 * Finds where keys that the config ties together are one question: each side changed one of them in a
 * way that the other did not. Then mine stands for all of them that differ.
 */
export class TiedKeys {
  /** Shared place to the groups whose keys are below it. */
  private readonly groups = new Map<string, Group[]>()
  /** Nodes that are in question, each with the keys of all that are in question with it. */
  private readonly held = triple(() => new Map<number, string[]>())
  /** Nodes that have such a node inside. */
  private readonly around = triple(() => new Set<number>())

  /** @param places groups of places, as the config has them */
  constructor(
    private readonly docs: Triple<Doc>,
    places: readonly (readonly string[])[],
  ) {
    for (const group of places) {
      const paths = group.map((place) => place.split('/'))
      const depth = sharedDepth(paths)
      const shared = surely(paths[0]).slice(0, depth).join('/')
      const others = this.groups.get(shared) ?? []
      this.groups.set(shared, [...others, { paths: paths.map((path) => path.slice(depth)) }])
    }
  }

  /** Looks for groups under nodes that stand at a place, before their inside is merged. */
  enter(nodes: Nodes, place: string): void {
    if (this.groups.size === 0) return
    for (const { paths } of this.groups.get(place) ?? []) this.hold(nodes, paths)
  }

  /** The keys of the question that a node is part of; its own is to be added when it is told. */
  keysOf(nodes: Nodes): string[] | undefined {
    if (this.groups.size === 0) return undefined
    for (const side of SIDES) {
      const keys = this.held[side].get(nodes[side])
      if (keys !== undefined) return keys
    }
    return undefined
  }

  /** Whether a node has one inside that is part of a question, so that it must be looked into. */
  isAround(nodes: Nodes): boolean {
    return this.groups.size > 0 && SIDES.some((side) => this.around[side].has(nodes[side]))
  }

  /** Whether a node is part of a question or has such a one inside. */
  touches(nodes: Nodes): boolean {
    return this.isAround(nodes) || this.keysOf(nodes) !== undefined
  }

  private hold(nodes: Nodes, paths: readonly string[][]): void {
    const found = paths.map((path) => this.follow(nodes, path)).filter((each) => each !== undefined)
    const forms = found.map(({ nodes: ends }) =>
      triple((side) => (ends[side] < 0 ? undefined : canonical(this.docs[side], ends[side]))),
    )
    const byOne = (side: Side, other: Side): boolean =>
      forms.some((form) => form[side] !== form[OLD] && form[side] !== form[other])
    if (!byOne(NEW, MINE) || !byOne(MINE, NEW)) return
    const open = found.filter((_, i) => forms[i]?.[NEW] !== forms[i]?.[MINE])
    if (open.length < 2) return
    const keys: string[] = []
    for (const { nodes: ends, passed } of open) {
      for (const side of SIDES) {
        if (ends[side] >= 0) this.held[side].set(ends[side], keys)
        for (const node of [nodes[side], ...passed[side]]) this.around[side].add(node)
      }
    }
  }

  /** Goes down a path in all documents, as far as all have it; undefined where that is not one node. */
  private follow(
    from: Nodes,
    path: readonly string[],
  ): { nodes: Nodes; passed: Triple<number[]> } | undefined {
    const passed = triple((): number[] => [])
    let nodes = from
    for (const [i, step] of path.entries()) {
      const children = triple((side) =>
        nodes[side] < 0 ? [] : childrenAt(this.docs[side], nodes[side], step),
      )
      if (children.some((each) => each.length > 1)) return undefined
      nodes = triple((side) => children[side][0] ?? -1)
      if (i === path.length - 1 || !SIDES.every((side) => from[side] < 0 || nodes[side] >= 0)) break
      for (const side of SIDES) {
        passed[side].push(nodes[side])
        if (this.docs[side].kind(nodes[side]) === Kind.Member)
          passed[side].push(this.docs[side].memberValue(nodes[side]))
      }
    }
    return { nodes, passed }
  }
}

/** How many steps all paths begin with, at least one step of each left aside. */
function sharedDepth(paths: readonly string[][]): number {
  const most = Math.min(...paths.map((path) => path.length)) - 1
  let depth = 0
  while (depth < most && paths.every((path) => path[depth] === surely(paths[0])[depth])) depth++
  return depth
}

/** The children that a step of a place names; an array has none. */
function childrenAt(doc: Doc, node: number, step: string): number[] {
  const parent = doc.kind(node) === Kind.Member ? doc.memberValue(node) : node
  return parent < 0 || doc.kind(parent) === Kind.Array ? [] : doc.childrenNamed(parent, step)
}
