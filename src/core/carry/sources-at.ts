import { Kind } from '../document/kind.ts'
import { MINE, SIDES } from '../document/sides.ts'
import type { Doc } from '../formats/doc.ts'
import { everyKey } from '../plan/every-key.ts'
import { valueStart } from '../plan/value-start.ts'
import type { ReadDocuments } from './plan-texts.ts'

/** What mine has at keys, as text of its source. */
export function sourcesAt(
  { docs, present, identities }: ReadDocuments,
  keys: ReadonlySet<string>,
): Map<string, string> {
  const sources = new Map<string, string>()
  for (const { key, nodes } of everyKey(docs, present, identities))
    if (keys.has(key) && nodes[MINE] >= 0) sources.set(key, sourceOf(docs[MINE], nodes[MINE]))
  return sources
}

/** The region of a node that a source text can stand in for: of an element that holds a text that text, else all. */
export function sourceRegion(doc: Doc, keyed: number): [start: number, end: number] {
  const node = doc.kind(keyed) === Kind.Member ? doc.memberValue(keyed) : keyed
  const { tree } = doc
  const isText = doc.kind(node) === Kind.Element && doc.isLeafElement(node)
  const isOpen = tree.bodyStart(node) < tree.end(node)
  if (isText && isOpen) return [tree.bodyStart(node), tree.bodyEnd(node)]
  return [valueStart(doc, node), tree.end(node)]
}

function sourceOf(doc: Doc, keyed: number): string {
  return doc.tree.source.slice(...sourceRegion(doc, keyed))
}

/** How many keys with one value there are in an entry, in any of the documents. */
export function keysUnder({ docs, present, identities }: ReadDocuments, entry: string): number {
  let count = 0
  for (const { key, nodes } of everyKey(docs, present, identities)) {
    if (!key.startsWith(`${entry}/`)) continue
    const side = SIDES.find((each) => nodes[each] >= 0) ?? MINE
    const doc = docs[side]
    const node = doc.kind(nodes[side]) === Kind.Member ? doc.memberValue(nodes[side]) : nodes[side]
    if (doc.isValue(node)) count++
  }
  return count
}
