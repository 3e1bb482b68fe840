import type { CommandProblem } from './document-parts.ts'

/** A problem of a command that is of no line. */
export function problemOf(
  severity: CommandProblem['severity'],
  code: string,
  message: string,
  path: string | null,
  hint: string | null = null,
): CommandProblem {
  return { severity, code, message, hint, path, line: null, column: null, input: null }
}
