import { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'
import { quoteName } from '../keys/key.ts'
import type { NameFacts } from './group.ts'

/** What can be asked about the names of a file before and after a change: each place is looked for once. */
export function nameFacts(old: Doc, fresh: Doc): NameFacts {
  const known = new Map<string, boolean>()
  const counts = new Map<string, number>()
  return {
    isKnown(place) {
      const found = known.get(place) ?? countAt(old, place, 1) > 0
      known.set(place, found)
      return found
    },
    count(place) {
      const found = counts.get(place) ?? countAt(fresh, place, Infinity)
      counts.set(place, found)
      return found
    },
  }
}

/** How many nodes stand at a place (a key without identities; `*` is any name), up to `most`. */
function countAt(doc: Doc, place: string, most: number): number {
  const steps = place.match(/(?:"(?:[^"\\]|\\.)*"|[^/])+/g) ?? []
  const root = doc.root()
  return root < 0 ? 0 : countBelow(doc, root, steps, 0, most)
}

function countBelow(
  doc: Doc,
  node: number,
  steps: readonly string[],
  at: number,
  most: number,
): number {
  const kind = doc.kind(node)
  // items of an array stand at the place of the array
  if (kind === Kind.Array)
    return sum(doc, node, most, (child) => countBelow(doc, child, steps, at, most))
  const step = steps[at]
  if (step === undefined) return 1
  return sum(doc, node, most, (child) => {
    if (!isStep(doc, child, step)) return 0
    const inside = doc.kind(child) === Kind.Member ? doc.memberValue(child) : child
    return countBelow(doc, inside, steps, at + 1, most)
  })
}

function sum(doc: Doc, node: number, most: number, countOf: (child: number) => number): number {
  let count = 0
  const { tree } = doc
  const stop = tree.next(node)
  for (let child = node + 1; child < stop && count < most; child = tree.next(child)) {
    if (tree.kind(child) !== Kind.Comment) count += countOf(child)
  }
  return count
}

function isStep(doc: Doc, node: number, step: string): boolean {
  switch (doc.kind(node)) {
    case Kind.Attribute:
      return step === `@${quoteName(doc.name(node))}` || step === '@*'
    case Kind.Element:
    case Kind.Member:
    case Kind.Section:
    case Kind.Property:
      return step === '*' || step === quoteName(doc.foldedName(node))
    default:
      return false
  }
}
