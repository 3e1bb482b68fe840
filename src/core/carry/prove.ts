import type { Problem } from '../document/problem.ts'
import type { Triple } from '../document/sides.ts'
import { MINE, NEW, OLD } from '../document/sides.ts'
import type { Format, MissingDeclaration, ParseResult } from '../formats/format.ts'

/** A text that was put together, and what reading it again found. */
export interface ProvenText {
  text: string
  /** Declarations that were put back, since the text still uses them. */
  kept: MissingDeclaration[]
  /** Why the text cannot be read; undefined where it can. */
  fault: Problem | undefined
}

/**
 * Reads a text that was put together from three again. What it uses and no longer declares is declared
 * as in mine, else as in new or old.
 */
export function prove(
  text: string,
  readings: Triple<ParseResult | undefined>,
  format: Format,
  readText: (text: string) => ParseResult,
): ProvenText {
  const inputs = ([MINE, NEW, OLD] as const).flatMap((side) => readings[side]?.tree ?? [])
  const kept: MissingDeclaration[] = []
  let proven = text
  for (;;) {
    const made = readText(proven)
    const missing = format.missing?.(made, inputs) ?? []
    if (missing.length === 0) {
      const fault = made.problems.find(({ severity }) => severity === 'error')
      return { text: proven, kept, fault }
    }
    kept.push(...missing)
    for (const { at, text: declaration } of missing.toSorted((a, b) => b.at - a.at))
      proven = proven.slice(0, at) + declaration + proven.slice(at)
  }
}
