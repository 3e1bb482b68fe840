import type { UnitList } from '../document/unit-list.ts'
import type { Side, Triple } from '../identity/sides.ts'
import { MINE, NEW, triple } from '../identity/sides.ts'
import type { Fit } from './indent.ts'
import { fitIndent, lineIndent, listIndent } from './indent.ts'
import type { ListInput } from './list-merge.ts'
import type { Merge } from './merge.ts'
import { pick } from './pick.ts'

/**
 * How a container is laid out in the result: its entries each on a line of its own or all on one, with
 * which indentation, and how text of each input is fitted to that.
 */
export class ListForm {
  /** Whether entries begin lines of their own. */
  readonly multiline: boolean
  /** The indentation of entries that begin a line. */
  readonly indent: string
  /** How the units of each input are re-indented; undefined where they fit as they are. */
  readonly fits: Triple<Fit | undefined>
  /** The same for the line of the closing. */
  readonly closeFits: Triple<Fit | undefined>

  constructor(merge: Merge, input: ListInput) {
    const { lists, nodes } = input
    const indents = triple((side) => {
      const list = lists[side]
      return list === undefined ? undefined : listIndent(list)
    })
    const outers = triple((side) => outerIndent(merge, side, nodes[side]))
    const outer = pick(outers) ?? ''
    const toResult = (side: Side, from: string, to: string): Fit | undefined => {
      const fromStep = merge.steps[side]
      const stepFits = fromStep === merge.resultStep || side === MINE
      return from === to && stepFits ? undefined : { from, fromStep, to, toStep: merge.resultStep }
    }
    this.multiline = pick(triple((side) => isMultiline(lists[side]))) ?? false
    this.indent = childIndent(indents, toResult(NEW, outers[NEW] ?? '', outer))
    this.fits = triple((side) => {
      const from = indents[side]
      return from === undefined ? undefined : toResult(side, from, this.indent)
    })
    this.closeFits = triple((side) => {
      const from = outers[side]
      return from === undefined ? undefined : toResult(side, from, outer)
    })
  }
}

function outerIndent(merge: Merge, side: Side, node: number): string | undefined {
  if (node < 0) return undefined
  const { tree, lines } = merge.docs[side]
  return lineIndent(tree.source, lines, tree.start[node] ?? 0)
}

function isMultiline(list: UnitList | undefined): boolean | undefined {
  return list === undefined || list.length === 0 ? undefined : listIndent(list) !== undefined
}

/** Mine's indentation, three-way; where mine has no entries, new's as it looks in mine's form. */
function childIndent(indents: Triple<string | undefined>, newToResult: Fit | undefined): string {
  if (indents[MINE] !== undefined) return pick(indents) ?? ''
  const fresh = indents[NEW]
  if (fresh === undefined) return ''
  return newToResult === undefined ? fresh : fitIndent(fresh, newToResult)
}
