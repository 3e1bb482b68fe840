export type Severity = 'error' | 'warning' | 'note'

/** A half-open range `[start, end)` in UTF-16 code units. */
export interface Span {
  start: number
  end: number
}

/** Something a reader of a document has to say about a place in it. Made by factories, one file a layer. */
export interface Problem {
  severity: Severity
  /** `layer/what`, such as `xml/unclosed-element`. */
  code: string
  message: string
  span: Span
  /** What to look at beside the line itself: what was expected, what to do. */
  hint?: string
  /** A second place that explains the first: where the unclosed thing was opened. */
  related?: { span: Span; message: string }
}

/** A problem that makes a document unusable. */
export function errorProblem(problem: Omit<Problem, 'severity'>): Problem {
  return { severity: 'error', ...problem }
}
