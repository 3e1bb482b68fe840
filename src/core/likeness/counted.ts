import { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'

/** Every value in a node with the path to it, or every word of a text, and how often each occurs. */
export class Counted {
  /** How many there are, each as often as it occurs. */
  total = 0
  private readonly counts = new Map<string, number>()

  add(feature: string, times = 1): void {
    this.total += times
    this.counts.set(feature, (this.counts.get(feature) ?? 0) + times)
  }

  /** How often a feature occurs. */
  times(feature: string): number {
    return this.counts.get(feature) ?? 0
  }

  names(): Iterable<string> {
    return this.counts.keys()
  }

  [Symbol.iterator](): Iterator<[feature: string, times: number]> {
    return this.counts.entries()
  }
}

/** @param textOf the text of a leaf: in the form in which two are compared, or another */
export function countedIn(
  doc: Doc,
  node: number,
  textOf: (leaf: number) => string = (leaf) => doc.value(leaf),
): Counted {
  const counted = new Counted()
  collect(doc, node, '', { counted, textOf })
  return counted
}

/** The same of siblings, from the first to the last. */
export function countedInAll(doc: Doc, first: number, last: number): Counted {
  const counted = new Counted()
  const textOf = (leaf: number): string => doc.value(leaf)
  for (let node = first; node <= last; node = doc.tree.next(node))
    collect(doc, node, '', { counted, textOf })
  return counted
}

interface Collecting {
  counted: Counted
  textOf: (leaf: number) => string
}

function collect(doc: Doc, node: number, path: string, into: Collecting): void {
  const { counted, textOf } = into
  const kind = doc.kind(node)
  if (kind === Kind.Comment || kind === Kind.Text) {
    const text = kind === Kind.Comment ? doc.commentText(node) : doc.value(node)
    for (const word of text.split(/\s+/)) counted.add(word)
    return
  }
  const here = `${path}/${doc.name(node)}`
  const leaf =
    kind !== Kind.Element && kind !== Kind.Object && kind !== Kind.Array && kind !== Kind.Member
  if (leaf && kind !== Kind.Section && kind !== Kind.Document) {
    counted.add(`${here}=${textOf(node)}`)
    return
  }
  if (kind === Kind.Element && doc.isLeafElement(node))
    counted.add(`${here}=${doc.elementText(node)}`)
  for (const child of doc.children(node)) {
    const childKind = doc.kind(child)
    if (childKind !== Kind.Comment && childKind !== Kind.Text) collect(doc, child, here, into)
  }
}

/** From 0 (nothing in common) to 1 (all shared): twice what is shared over all (Dice, 1945). */
export function similarity(a: Counted, b: Counted): number {
  const all = a.total + b.total
  if (all === 0) return 1
  let shared = 0
  for (const [feature, times] of a) shared += Math.min(times, b.times(feature))
  return (2 * shared) / all
}
