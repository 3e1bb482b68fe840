import type { Doc } from '../formats/doc.ts'
import type { Counted } from '../likeness/counted.ts'
import { countedIn } from '../likeness/counted.ts'
import type { InnerChange } from './ledger.ts'

/** What differs inside an entry between two documents, by the path to each value. */
export function innerChanges(old: Doc, oldNode: number, other: Doc, node: number): InnerChange[] {
  const before = byPath(countedIn(old, oldNode))
  const after = byPath(countedIn(other, node))
  const paths = new Set([...before.keys(), ...after.keys()])
  const changes: InnerChange[] = []
  for (const path of paths) {
    const from = before.get(path)?.join(', ') ?? null
    const to = after.get(path)?.join(', ') ?? null
    if (from !== to) changes.push({ path, from, to })
  }
  return changes
}

/** Values by their path, the entry's own name left out. */
function byPath(features: Counted): Map<string, string[]> {
  const values = new Map<string, string[]>()
  for (const feature of features.names()) {
    const at = feature.indexOf('=')
    const path = feature
      .slice(0, at)
      .replace(/^\/[^/]*\/?/, '')
      .replace(/\/+/g, '/')
    const value = feature.slice(at + 1).replace(/^"/, '')
    const known = values.get(path)
    if (known === undefined) values.set(path, [value])
    else known.push(value)
  }
  return values
}
