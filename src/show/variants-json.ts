import type { CarriedVariant, RefusedVariant } from '../core/facts/carried.ts'
import type { Release } from '../core/facts/release.ts'
import { habitsIn } from '../core/grouping/habits.ts'
import { questionsOf } from '../core/grouping/questions.ts'
import { totalCounts } from '../core/report/report.ts'
import type { CarryVariantsDocument } from './carry-document.ts'
import { carryJson } from './carry-json.ts'
import { explanationJson } from './explain-view.ts'
import { problemOf } from './command-problem.ts'
import { questionJson } from './question-json.ts'
import { releasesJson } from './releases-json.ts'

/** What a call of `carry` in a workspace came to. */
export interface VariantsCarried {
  carried: readonly CarriedVariant[]
  refused: readonly RefusedVariant[]
  /** Drafts that were dropped. */
  dropped: readonly string[]
  releases: readonly Release[]
  dryRun: boolean
  explain: string | undefined
  next: readonly string[]
}

/** A carry of variants as its JSON document. */
export function variantsJson(done: VariantsCarried): CarryVariantsDocument {
  const { carried, refused, dropped, releases, dryRun, explain, next } = done
  const files = carried.flatMap(({ report }) => report.files)
  const [explained] =
    explain === undefined
      ? []
      : carried.flatMap(({ report }) => explanationJson(report, explain) ?? [])
  return {
    command: 'carry',
    schema: 1,
    dryRun,
    releases: releasesJson(releases),
    ...(explained === undefined ? {} : { explain: explained }),
    variants: carried.map((each) => {
      const { variant, from, to, draft, mine, report, forecast } = each
      const inputs = { old: from, new: to, mine }
      const call = { dryRun, inputs, out: draft?.location ?? null, next: [] }
      return {
        ...carryJson(report, call, explain),
        variant,
        from,
        to,
        draft: draft?.name ?? null,
        ...(dryRun ? { forecast } : {}),
      }
    }),
    counts: totalCounts(files),
    questions: variantQuestions(carried).map((question) => questionJson(question, habitsIn(files))),
    ...(dropped.length === 0 ? {} : { dropped: [...dropped] }),
    problems: refused.map(({ variant, code, message, hint }) => ({
      ...problemOf('error', code, `${variant}: ${message}`, null),
      hint,
    })),
    next: [...next],
  }
}

/** The questions of all variants: what several ask alike is one. */
export function variantQuestions(
  carried: readonly CarriedVariant[],
): ReturnType<typeof questionsOf> {
  return questionsOf(
    carried.flatMap(({ variant, report }) =>
      report.files.map(({ path, conflicts, outcome }) => ({
        path,
        conflicts,
        outcome,
        ...(carried.length > 1 ? { variant } : {}),
      })),
    ),
  )
}
