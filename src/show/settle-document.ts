import { z } from 'zod'
import { common, natural, text } from './document-parts.ts'
import { questionDocument } from './question-document.ts'

/** The JSON document of `settle` by options. */
export const settleDocument = z.strictObject({
  command: z.literal('settle'),
  ...common,
  variant: z.string(),
  from: z.string(),
  to: z.string(),
  draft: z.string(),
  counts: z.strictObject({
    questions: natural.describe('how many questions are open'),
    open: natural.describe('over how many keys they are'),
    closed: natural.describe('keys that are decided in this draft'),
    notLookedAt: natural.describe('groups of changes of vanilla that nobody looked at'),
  }),
  questions: z.array(questionDocument),
  closed: z
    .array(
      z.strictObject({
        id: text.describe('the name of the conflict; null where the key was in no question'),
        path: z.string(),
        key: z.string(),
        take: z.string(),
        result: text,
      }),
    )
    .describe('what this call decided; with --list all that is decided'),
  notApplied: z.array(z.strictObject({ path: z.string(), key: z.string(), why: z.string() })),
  lookedAt: natural.describe('groups that this call marked'),
})

export type SettleDocument = z.infer<typeof settleDocument>
