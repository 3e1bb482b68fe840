import type { SettleState } from '../core/facts/settled.ts'
import { plainProblem } from './carry-json.ts'
import { questionJson } from './question-json.ts'
import type { SettleDocument } from './settle-document.ts'

/** Where a draft stands, as its JSON document. */
export function settleJson(state: SettleState, next: readonly string[]): SettleDocument {
  const { variant, from, to, draft, questions, habits, open, notLookedAt } = state
  return {
    command: 'settle',
    schema: 1,
    variant,
    from,
    to,
    draft,
    counts: { questions: questions.length, open, closed: state.closedInAll, notLookedAt },
    questions: questions.map((question) => questionJson(question, habits)),
    closed: state.closed,
    notApplied: state.notApplied,
    lookedAt: state.lookedAt,
    problems: state.problems.map((problem) => ({ ...plainProblem(problem), path: problem.path })),
    next: [...next],
  }
}
