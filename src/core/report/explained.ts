import type { Position } from '../document/line-map.ts'
import type { Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, triple } from '../document/sides.ts'
import type { Doc } from '../formats/doc.ts'
import { ownText, shownValue } from '../formats/shown-value.ts'
import { nearest } from '../keys/nearest.ts'
import type { KeyedNodes } from '../plan/every-key.ts'
import type { InputName } from '../plan/telling.ts'

/** What stands at a key in each document; null where nothing does. */
export interface ExplainedKey extends Record<InputName, string | null> {
  at: Record<InputName, Position | null>
}

/** What a file has at a key that somebody asks for: the key, or the nearest that it has. */
export type Explained = { is: 'there'; key: ExplainedKey } | { is: 'not-there'; nearest?: string }

/** Looks for a key among all of a file's. */
export function explainKey(
  keys: Iterable<KeyedNodes>,
  docs: Triple<Doc>,
  asked: string,
): Explained {
  const known: string[] = []
  for (const { key, nodes } of keys) {
    if (key === asked) return { is: 'there', key: standsAt(docs, nodes) }
    known.push(key)
  }
  const near = nearest(asked, known)
  return near === undefined ? { is: 'not-there' } : { is: 'not-there', nearest: near }
}

/** What stands at the nodes that a key names. */
export function standsAt(docs: Triple<Doc>, nodes: Triple<number>): ExplainedKey {
  const [old, fresh, mine] = triple((side) => {
    const [doc, node] = [docs[side], nodes[side]]
    return node < 0 ? null : (ownText(doc, node) ?? shownValue(doc, node))
  })
  const at = triple((side): Position | null =>
    nodes[side] < 0 ? null : docs[side].placeAt(docs[side].tree.start(nodes[side])),
  )
  return { old, new: fresh, mine, at: { old: at[OLD], new: at[NEW], mine: at[MINE] } }
}
