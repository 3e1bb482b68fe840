import { z } from 'zod'
import { CONFLICT_KINDS } from '../core/plan/telling.ts'
import { TAKES_OF_DECISIONS } from '../core/report/remembered.ts'
import { natural, text } from './document-parts.ts'

/** The answer that was given when a key was in question for other values. */
export const earlierAnswer = z.strictObject({
  take: z.enum(TAKES_OF_DECISIONS),
  value: z.string().optional(),
})

/** Alike conflicts, as one question. */
export const questionDocument = z.strictObject({
  pattern: z.string().describe('their keys without identities'),
  paths: z.array(z.string()),
  variants: z
    .array(z.string())
    .optional()
    .describe('whose files they are in, where several are carried'),
  kind: z.enum(CONFLICT_KINDS),
  count: natural.describe('how many keys it is over'),
  old: text,
  new: text,
  mine: text,
  sentence: z.string(),
  ids: z.array(z.string()).describe('the names of its conflicts'),
  keys: z.array(z.strictObject({ path: z.string(), key: z.string() })),
  choices: z
    .array(z.strictObject({ take: z.string(), value: text, why: z.string() }))
    .describe('answers: what settle --take takes, and what would stand there'),
  earlier: earlierAnswer
    .nullable()
    .describe('what was answered when it was in question for other values'),
})

export type QuestionDocument = z.infer<typeof questionDocument>
