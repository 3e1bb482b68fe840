/*
 * Merges of all sorts, made up from a seed: what two builds of the program are compared on.
 */
import fc from 'fast-check'
import type { FormatName } from '../../src/core/formats/index.ts'
import { FORMAT_NAMES } from '../../src/core/formats/index.ts'
import type { Texts } from '../core/laws/laws.ts'
import type { Story } from '../core/laws/model.ts'
import { PLAIN, stories, styles } from '../core/laws/model.ts'
import { renderers, sharedIdentity, withoutIdentity } from '../core/laws/render.ts'
import { longLists } from '../core/laws/long-lists.ts'
import { richStories } from '../core/laws/rich.ts'
import { editedText, textEdits } from '../core/laws/text-edits.ts'
import { beginnings } from './documents.ts'

export interface Merge {
  format: FormatName
  texts: Texts
}

/** Of so many merges one is made by edits of lines in a file of the demo; the others come from models. */
const EACH_OF_LINES = 3

function ofModels(): fc.Arbitrary<Merge> {
  const all = [...renderers, ...withoutIdentity, ...sharedIdentity]
  return fc.constantFrom(...all).chain((renderer) =>
    fc
      .tuple(
        fc.oneof(
          stories(renderer.depth),
          stories(renderer.depth, true),
          richStories(renderer.depth === 0),
          longLists,
        ),
        styles,
      )
      .map(([{ old, fresh, mine }, style]: [Story, typeof PLAIN]) => ({
        format: renderer.name,
        texts: [
          renderer.render(old, PLAIN),
          renderer.render(fresh, PLAIN),
          renderer.render(mine, style),
        ] as Texts,
      })),
  )
}

function ofLines(demo: string): fc.Arbitrary<Merge> {
  const starts = beginnings(demo)
  return fc.constantFrom(...FORMAT_NAMES).chain((format) =>
    fc
      .tuple(fc.constantFrom(...starts[format]), textEdits, textEdits)
      .map(([old, fresh, mine]) => ({
        format,
        texts: [
          old,
          editedText(old, fresh, format, 'vanilla'),
          editedText(old, mine, format, 'harbour'),
        ] as Texts,
      })),
  )
}

/** So many merges from a seed. */
export function merges(count: number, seed: number, demo: string): Merge[] {
  const lines = Math.ceil(count / EACH_OF_LINES)
  return [
    ...fc.sample(ofModels(), { numRuns: count - lines, seed }),
    ...fc.sample(ofLines(demo), { numRuns: lines, seed }),
  ]
}
