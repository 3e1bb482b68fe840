import type { Side, Triple } from '../document/sides.ts'
import type { Doc } from '../formats/doc.ts'
import type { Plan } from '../plan/plan.ts'
import type { Fits } from './indent.ts'
import type { Writer } from './writer.ts'

/** The writing of one document, as its parts see it. */
export interface WriteContext {
  readonly docs: Triple<Doc>
  readonly writer: Writer
  /** What a made line end is. */
  readonly lineEnd: string
  /** One step of nesting in each document, and in the result. */
  readonly steps: { inputs: Triple<string>; result: string }
  /** Whether the last line written is a comment that belongs to no entry: what follows must not take it over. */
  endsInFreeComment: boolean
  /** Writes what becomes of a node. @param fits how what is taken whole is re-indented */
  write(plan: Plan, fits: Fits): void
  /** Remembers whether what was written ends in a comment that belongs to no entry. */
  wrote(side: Side, node: number): void
}
