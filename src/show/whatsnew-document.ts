import { z } from 'zod'
import { common, natural, text } from './document-parts.ts'

const kind = z.enum([
  'new-name',
  'changed',
  'added',
  'removed',
  'renamed',
  'moved',
  'file-added',
  'file-removed',
  'file-renamed',
  'file-changed',
])

const law = z
  .discriminatedUnion('by', [
    z.strictObject({ by: z.literal('same') }),
    z.strictObject({ by: z.literal('times'), numerator: z.string(), denominator: z.string() }),
    z.strictObject({ by: z.literal('plus'), plus: z.string() }),
    z.strictObject({ by: z.literal('percent'), percent: natural }),
  ])
  .nullable()
  .describe('what new is of old in all of them; null where each differs in its own way')

const row = z.strictObject({
  kind,
  pattern: z.string().describe('the keys without identities'),
  count: natural,
  old: text.describe('the value that all of them had; null where they differ'),
  new: text.describe('the value that all of them have; null where they differ'),
  law,
  keys: z.array(z.string()),
  now: z
    .strictObject({ have: natural, of: natural })
    .optional()
    .describe('of a name that entries got: how many have it now, of how many'),
})

const change = z.strictObject({
  path: z.string(),
  key: z.string(),
  old: text,
  new: text,
  mine: text,
})

/** The JSON document of `whatsnew`. */
export const whatsNewDocument = z.strictObject({
  command: z.literal('whatsnew'),
  ...common,
  from: z.string(),
  to: z.string(),
  files: z.strictObject({ changed: natural, all: natural }),
  counts: z.strictObject({
    changed: natural,
    added: natural,
    removed: natural,
    moved: natural,
    renamed: natural,
  }),
  groups: z
    .array(
      row.extend({
        path: z
          .string()
          .describe('of several files what their paths share; empty where the keys are paths'),
        files: natural.describe(
          'in so many files; where in several, their paths stand before the keys',
        ),
        parts: z.array(row).optional().describe('rows that go together on the same entries'),
      }),
    )
    .describe('each changed key is in one of them; the most telling first'),
  comments: z.array(
    z.strictObject({ path: z.string(), line: z.int().positive(), old: text, new: text }),
  ),
  for: z
    .strictObject({
      variant: z.string(),
      vanilla: z.string().describe('what it was made from: its edits are those against that'),
      counts: z.strictObject({ edits: natural, merging: natural, both: natural }),
      conflicts: z.array(change.extend({ kind: z.string(), id: z.string() })),
      near: z.array(change).describe('changes to entries in which the variant has edits'),
      wiped: z.array(change).describe('edits that a policy drops'),
      unread: z.array(z.string()),
    })
    .optional(),
})

export type WhatsNewDocument = z.infer<typeof whatsNewDocument>
