import { z } from 'zod'

export const text = z.string().nullable()
export const natural = z.int().nonnegative()

export const problem = z.strictObject({
  severity: z.enum(['error', 'warning', 'note']),
  code: z.string(),
  message: z.string(),
  hint: text.describe('what was expected, or what to do'),
  line: z.int().positive().nullable(),
  column: z.int().positive().nullable(),
  input: z.enum(['old', 'new', 'mine']).nullable(),
})

/** A problem of a command: of a file, or of none. */
export const commandProblem = problem.extend({ path: z.string().nullable() })

/** What every JSON document has. */
export const common = {
  schema: z.literal(1),
  problems: z.array(commandProblem),
  next: z.array(z.string()),
}

export type CommandProblem = z.infer<typeof commandProblem>
