import type { Triple } from '../../document/sides.ts'
import { MINE, NEW, OLD } from '../../document/sides.ts'
import type { Tree } from '../../document/tree.ts'

/** Nodes of old, siblings with all that is in them, that new and mine have as copies. */
export interface SharedNodes {
  /** The first of them, and the one after the last. */
  from: number
  stop: number
  /** How much further on a node stands in new's tree and in mine's than in old's. */
  shifts: Triple<number>
}

/** What all three trees share, in the order of old. */
export function sharedNodes(trees: Triple<Tree>): SharedNodes[] {
  const [old, fresh, mine] = [trees[OLD], trees[NEW], trees[MINE]]
  const inNew = fresh.copiesOf(old)
  const inMine = mine.copiesOf(old)
  const shared: SharedNodes[] = []
  let [i, j] = [0, 0]
  for (;;) {
    const a = inNew[i]
    const b = inMine[j]
    if (a === undefined || b === undefined) return shared
    const [stopA, stopB] = [a.origin + a.count, b.origin + b.count]
    const from = Math.max(a.origin, b.origin)
    const stop = Math.min(stopA, stopB)
    if (from < stop)
      shared.push({ from, stop, shifts: [0, a.first - a.origin, b.first - b.origin] })
    if (stopA <= stopB) i++
    else j++
  }
}
