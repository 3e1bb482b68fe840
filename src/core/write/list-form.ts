import { Kind } from '../document/kind.ts'
import type { UnitList } from '../document/unit-list.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, triple } from '../document/sides.ts'
import type { Fit } from './indent.ts'
import { fitIndent, lineIndent, listIndent } from './indent.ts'
import type { ListInput } from '../plan/plan.ts'
import type { WriteContext } from './context.ts'
import { pick } from '../document/pick.ts'

/**
 * How a container is laid out in the result: its entries each on a line of its own or all on one, with
 * which indentation, and how text of each input is fitted to that.
 */
export class ListForm {
  private known: Form | undefined

  constructor(
    private readonly context: WriteContext,
    private readonly input: ListInput,
  ) {}

  /** Whether entries begin lines of their own. */
  get multiline(): boolean {
    return this.form.multiline
  }

  /** The indentation of entries that begin a line. */
  get indent(): string {
    return this.form.indent
  }

  /** How the units of each input are re-indented; undefined where they fit as they are. */
  get fits(): Triple<Fit | undefined> {
    return this.form.fits
  }

  /** The same for the line of the closing. */
  get closeFits(): Triple<Fit | undefined> {
    return this.form.closeFits
  }

  /** Worked out when it is first asked for: most containers are written as they are. */
  private get form(): Form {
    return (this.known ??= formOf(this.context, this.input))
  }
}

interface Form {
  multiline: boolean
  indent: string
  fits: Triple<Fit | undefined>
  closeFits: Triple<Fit | undefined>
}

function formOf(context: WriteContext, { lists, nodes, kind }: ListInput): Form {
  const isDocument = kind === Kind.Document
  const indents = triple((side) => {
    const list = lists[side]
    return list === undefined ? undefined : listIndent(list)
  })
  const outers = triple((side) => outerIndent(context, side, nodes[side]))
  const outer = pick(outers) ?? ''
  const toResult = (side: Side, from: string, to: string): Fit | undefined => {
    const { inputs, result } = context.steps
    const fromStep = inputs[side]
    const stepFits = fromStep === result || side === MINE
    const fits = (from === to && stepFits) || isDocument
    return fits ? undefined : { from, fromStep, to, toStep: result }
  }
  const indent = childIndent(indents, toResult(NEW, outers[NEW] ?? '', outer))
  return {
    multiline: pick(triple((side) => isMultiline(lists[side]))) ?? false,
    indent,
    fits: triple((side) => {
      const from = indents[side]
      return from === undefined ? undefined : toResult(side, from, indent)
    }),
    closeFits: triple((side) => {
      const from = outers[side]
      return from === undefined ? undefined : toResult(side, from, outer)
    }),
  }
}

function outerIndent(context: WriteContext, side: Side, node: number): string | undefined {
  if (node < 0) return undefined
  const { tree, lines } = context.docs[side]
  return lineIndent(tree.source, lines, tree.start(node))
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
