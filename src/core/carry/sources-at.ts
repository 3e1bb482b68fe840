import { Kind } from '../document/kind.ts'
import { MINE, NEW } from '../document/sides.ts'
import type { Doc } from '../formats/doc.ts'
import { everyKey } from '../plan/every-key.ts'
import { valueStart } from '../plan/value-start.ts'
import { documentKeys } from '../identity/document-keys.ts'
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

/** The keys with one value in an entry, as mine has it, or new where mine has not. */
export function keysUnder({ docs, present, identities }: ReadDocuments, entry: string): string[] {
  const side = present[MINE] ? MINE : NEW
  const doc = docs[side]
  return documentKeys(doc, identities).flatMap(({ key, node }) => {
    if (!key.startsWith(`${entry}/`)) return []
    const held = doc.kind(node) === Kind.Member ? doc.memberValue(node) : node
    return doc.isValue(held) ? [key] : []
  })
}
