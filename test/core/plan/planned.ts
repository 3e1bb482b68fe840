import type { CarryOptions, PlannedTexts } from '../../../src/core/carry/plan-texts.ts'
import { planTexts } from '../../../src/core/carry/plan-texts.ts'
import type { Triple } from '../../../src/core/document/sides.ts'
import { triple } from '../../../src/core/document/sides.ts'
import { THRESHOLDS } from '../../../src/core/document/thresholds.ts'
import type { Thresholds } from '../../../src/core/document/thresholds.ts'
import type { Format } from '../../../src/core/formats/index.ts'
import { ALL_WAYS, NO_WAYS } from '../laws/short-ways.ts'
import { outlineOf } from './outline.ts'

/** What is decided of a carry, without any short way and with all of them. */
export function outlines(
  format: Format,
  texts: Triple<string>,
): [plain: string[], short: string[]] {
  const outline = (thresholds: Thresholds): string[] => {
    const { plan, docs } = planned(format, texts, { thresholds })
    return outlineOf(plan, docs)
  }
  return [outline(NO_WAYS), outline(ALL_WAYS)]
}

/** The plan of a carry of well-formed texts with line ends of one kind. */
export function planned(
  format: Format,
  texts: Triple<string>,
  more: Partial<CarryOptions> = {},
): PlannedTexts {
  const reader = format.reader([texts[0], texts[1]])
  const readings = triple((side) => reader.read(texts[side]))
  const { thresholds = THRESHOLDS } = more
  return planTexts(
    { readings, reader, lineEnd: '\n', problems: [], thresholds },
    { format, path: 'a', ...more },
  )
}
