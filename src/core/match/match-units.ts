import { Kind } from '../document/kind.ts'
import type { Triple } from '../document/sides.ts'
import { triple } from '../document/sides.ts'
import type { EntryRun, UnitList } from '../document/unit-list.ts'
import type { Doc } from '../formats/doc.ts'
import type { Known } from '../identity/known.ts'
import type { Value } from '../likeness/value.ts'
import type { ValueCarry } from './carry-values.ts'
import type { Dormant } from './dormant.ts'
import type { Item } from './item.ts'
import { NodeItem } from './item.ts'
import { matchWords } from './match-words.ts'
import type { Container } from './matching.ts'
import { Matching } from './matching.ts'
import type { Scope } from './tell-apart.ts'

/** Matches the units of one container in the three documents. */
export function matchUnits(container: Container, scope: Scope, carry: ValueCarry): Matching {
  const { docs, lists, apart, dormant } = container
  const { known } = scope.identities
  const found = triple((side) => itemsOf(docs[side], lists[side], known, dormant?.entries[side]))
  const siblings =
    apart === undefined
      ? undefined
      : (): Triple<readonly Item[]> => {
          const each = apart()
          return triple(
            (side) => itemsOf(docs[side], each[side], known, dormant?.entries[side]).items,
          )
        }
  const match = carry.decide(
    triple((side) => found[side].items),
    scope,
    siblings,
  )
  const matching = new Matching(
    container,
    match,
    triple((side) => found[side].ranks),
  )
  matchWords(matching)
  return matching
}

/** The entries among the units of a list, and the rank of each unit among them; -1 for comments and texts. */
function itemsOf(
  doc: Doc,
  list: UnitList | undefined,
  known: Known,
  dormant: Dormant | undefined,
): { items: Item[]; ranks: number[] } {
  const items: Item[] = []
  const ranks: number[] = []
  for (const [unit, node] of (list?.nodes ?? []).entries()) {
    const kind = doc.kind(node)
    const entry = list?.isDormant(unit) === true ? dormant?.get(node) : undefined
    if (entry !== undefined) {
      ranks.push(items.length)
      items.push(new NodeItem(entry.doc, entry.node, known))
      continue
    }
    if (kind === Kind.Comment || kind === Kind.Text) {
      ranks.push(-1)
      continue
    }
    ranks.push(items.length)
    const run = list?.runOf(unit)
    if (run !== undefined) {
      items.push(new RunItem(run))
      continue
    }
    items.push(new NodeItem(doc, node, known))
  }
  return { items, ranks }
}

/** Entries that nobody touched, as one item: it is in all documents, and nothing else can be meant by it. */
class RunItem implements Item {
  readonly kind = Kind.Instruction
  readonly name: string
  readonly sort = undefined
  readonly isPlain = false

  constructor({ id }: EntryRun) {
    this.name = `run ${id}`
  }

  get value(): Value {
    throw new Error('a run of entries has no value')
  }

  identity(): undefined {
    return undefined
  }

  isSame(other: Item): boolean {
    return other.kind === this.kind && other.name === this.name
  }
}
