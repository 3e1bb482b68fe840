import { Kind } from '../document/kind.ts'
import { SIDES } from '../document/sides.ts'
import type { Doc } from '../formats/doc.ts'
import type { Matching } from '../match/matching.ts'
import type { Moves, ResultOrder } from '../match/order.ts'
import { resultOrder } from '../match/order.ts'
import type { ListInput } from './plan.ts'

/**
 * In which order a container's entries stand in the result. Keys that are in no section stand before all sections:
 * behind one they would be its keys. The declaration of XML stands before all else, or the file cannot be read.
 *
 * @param isIn whether anything of a class is in the result
 */
export function listOrder(
  { kind }: ListInput,
  matching: Matching,
  moves: Moves,
  isIn: (cls: number) => boolean,
): ResultOrder {
  const order = resultOrder(matching, moves, isIn)
  if (kind !== Kind.Document) return order
  const is = (cls: number, holds: (doc: Doc, node: number) => boolean): boolean =>
    SIDES.some((side) => {
      if (matching.unit(side, cls) < 0) return false
      const { doc, node } = matching.entry(side, cls)
      return holds(doc, node)
    })
  const isOf = (cls: number, wanted: Kind): boolean =>
    is(cls, (doc, node) => doc.kind(node) === wanted)
  const { classes } = order
  const declaration = classes.findIndex((cls) => is(cls, isDeclaration))
  if (declaration > 0) return { ...order, classes: firstOf(classes, declaration) }
  const first = classes.findIndex((cls) => isOf(cls, Kind.Section))
  const isLate = (cls: number, at: number): boolean =>
    first >= 0 && at > first && isOf(cls, Kind.Property)
  const late = classes.filter(isLate)
  if (late.length === 0) return order
  const others = classes.filter((cls, at) => !isLate(cls, at))
  return { ...order, classes: [...others.slice(0, first), ...late, ...others.slice(first)] }
}

function firstOf(classes: readonly number[], at: number): number[] {
  return [...classes.slice(at, at + 1), ...classes.slice(0, at), ...classes.slice(at + 1)]
}

function isDeclaration(doc: Doc, node: number): boolean {
  return doc.kind(node) === Kind.Instruction && doc.name(node) === DECLARATION
}

/** What the declaration of XML is called: no element can be called so. */
const DECLARATION = '?xml'
