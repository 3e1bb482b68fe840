import type { Triple } from '../document/sides.ts'
import { OLD } from '../document/sides.ts'
import type { Doc } from '../formats/doc.ts'
import type { Identities } from '../identity/identities.ts'
import { joinKey, quoteName } from '../keys/key.ts'
import type { Matching } from '../match/matching.ts'
import type { ListScope, WrappedList } from '../match/wrapped-list.ts'
import { wrappedArray, wrappedList } from '../match/wrapped-list.ts'
import { Entries } from './entries.ts'
import type { ListInput, Where } from './plan.ts'
import type { ChangeSide, Nodes } from './telling.ts'

/** A container that a side put around entries, and that the other documents have been given, too. */
export interface Wrapping {
  by: ChangeSide
  /** The key of what is around the entries. */
  key: string
  /** The key of the list in which they stood. */
  was: string
}

/** A new container around entries, as a first plan meets it. */
export type FoundWrapping = Wrapping & Pick<WrappedList, 'replaced'>

/** What a plan meets of lists whose entries a side put into a new container. */
export class Wrappings {
  readonly found: FoundWrapping[] = []

  constructor(
    private readonly docs: Triple<Doc>,
    private readonly identities: Identities,
  ) {}

  /** Looks at a list whose units have been matched. */
  seeList({ lists, where }: ListInput, matching: Matching): void {
    const found = wrappedList(this.scope(where), matching)
    if (found === undefined) return
    const key = new Entries(matching, lists, where.key).keyOf(found.cls)
    this.found.push({ ...found, key, was: where.key })
  }

  /** Looks at a value that is of another kind than it was. */
  seeValue(nodes: Nodes, where: Where): void {
    if (nodes[OLD] < 0) return
    const found = wrappedArray(this.scope(where), nodes)
    if (found === undefined) return
    const key = joinKey(where.key, quoteName(found.name))
    this.found.push({ ...found, key, was: where.key })
  }

  private scope({ place }: Where): ListScope {
    return { docs: this.docs, identities: this.identities, place }
  }
}
