import { z } from 'zod'
import { text } from './document-parts.ts'

/** What a check found at one place. */
export const finding = z.strictObject({
  path: z.string(),
  key: z.string().describe('empty where a file or a folder as a whole is meant'),
  line: z.int().positive().nullable(),
  column: z.int().positive().nullable(),
  check: z.string().describe('the kind of the check: well-formed, unique, in-range, …'),
  severity: z.enum(['error', 'warning', 'note']),
  message: z.string(),
  expected: text,
  nearest: text.describe('the right value that is nearest to the one that stands there'),
})

export type FindingDocument = z.infer<typeof finding>
