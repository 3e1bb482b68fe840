import { gather } from '../document/gather.ts'
import type { Doc } from '../formats/doc.ts'
import type { Counted } from '../likeness/counted.ts'
import { countedIn } from '../likeness/counted.ts'
import type { InnerChange } from './ledger.ts'

/** What differs inside an entry between two documents, by the path to each value; values as they stand. */
export function innerChanges(old: Doc, oldNode: number, other: Doc, node: number): InnerChange[] {
  const before = byPath(countedIn(old, oldNode))
  const after = byPath(countedIn(other, node))
  const [asInOld, asInOther] = [shownByPath(old, oldNode), shownByPath(other, node)]
  const paths = new Set([...before.keys(), ...after.keys()])
  const changes: InnerChange[] = []
  for (const path of paths) {
    const [was, is] = [before.get(path) ?? [], after.get(path) ?? []]
    const gone = without(was, is, asInOld.get(path))
    const come = without(is, was, asInOther.get(path))
    if (gone === null && come === null) continue
    changes.push({ path, from: gone, to: come })
  }
  return changes
}

/** The values that one has and the other has not, each as often, as they are shown; null where there are none. */
function without(
  values: readonly string[],
  others: readonly string[],
  shown: readonly string[] = values,
): string | null {
  const left = [...others]
  const own = shown.filter((_, i) => {
    const at = left.indexOf(values[i] ?? '')
    if (at >= 0) left.splice(at, 1)
    return at < 0
  })
  return own.length === 0 ? null : own.join(', ')
}

function shownByPath(doc: Doc, node: number): Map<string, string[]> {
  return byPath(countedIn(doc, node, (leaf) => doc.leafText(leaf)))
}

/** Values by their path, the entry's own name left out. */
function byPath(features: Counted): Map<string, string[]> {
  const values = new Map<string, string[]>()
  for (const [feature, times] of features) {
    const at = feature.indexOf('=')
    const path = feature
      .slice(0, at)
      .replace(/^\/[^/]*\/*/, '')
      .replace(/\/+/g, '/')
      .replace(/\/$/, '')
    const value = feature.slice(at + 1).replace(/^"/, '')
    for (let time = 0; time < times; time++) gather(values, path, value)
  }
  return values
}
