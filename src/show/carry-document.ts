import { z } from 'zod'
import { OUTCOMES } from '../core/report/file-fate.ts'
import { CONFLICT_KINDS } from '../core/plan/telling.ts'
import { FORMAT_NAMES } from '../core/formats/index.ts'
import { common, natural, problem, text } from './document-parts.ts'
import { finding } from './finding-document.ts'
import { earlierAnswer, questionDocument } from './question-document.ts'

const position = z.strictObject({ line: z.int().positive(), column: z.int().positive() }).nullable()
const types = z.strictObject({ old: text, new: text, mine: text })

const cut = z
  .partialRecord(z.enum(['old', 'new', 'mine', 'result']), natural)
  .describe('how long values are that stand here by their beginning and end alone')

const counts = z.strictObject({
  edits: natural.describe('rows of side mine'),
  vanillaChanges: natural.describe('rows of side vanilla'),
  both: natural.describe('rows of side both'),
  conflicts: natural.describe('open conflicts'),
  decided: natural.describe('conflicts that a decision or a rule settled'),
})

const change = z.strictObject({
  key: z.string(),
  side: z.enum(['vanilla', 'mine', 'both']),
  kind: z.enum(['added', 'removed', 'changed', 'moved', 'renamed']),
  was: z.string().optional().describe('the old key, of what was renamed'),
  by: z.string().optional().describe('the rule or decision that made the result'),
  'was-conflict': z
    .enum(CONFLICT_KINDS)
    .optional()
    .describe('the kind of the conflict that this was, where it was settled'),
  id: z
    .string()
    .regex(/^[0-9a-f]{12}$/)
    .optional()
    .describe('the name of that conflict'),
  old: text,
  new: text,
  mine: text,
  result: text,
  types: types.optional().describe('the JSON types, where they differ'),
  cut: cut.optional(),
})

const conflict = z.strictObject({
  key: z.string(),
  kind: z.enum(CONFLICT_KINDS),
  id: z.string().regex(/^[0-9a-f]{12}$/),
  old: text,
  new: text,
  mine: text,
  result: text,
  at: z.strictObject({ old: position, new: position, mine: position }),
  types: types.optional(),
  cut: cut.optional(),
  perhaps: z
    .strictObject({ path: z.string(), key: text })
    .optional()
    .describe('what an entry or a file that one side dropped may be there, key null for a file'),
  together: z
    .array(z.string())
    .optional()
    .describe('the ids of the conflicts that are decided as one, its own among them'),
  earlier: earlierAnswer
    .optional()
    .describe('what was answered when it was in question for other values'),
})

const placed = z.strictObject({
  value: z.string(),
  line: z.int().positive().nullable(),
  column: z.int().positive().nullable(),
})

const explain = z.strictObject({
  path: z.string(),
  key: z.string(),
  identity: text.describe('what tells the entries apart on the way to the key'),
  old: placed.nullable(),
  new: placed.nullable(),
  mine: placed.nullable(),
  result: text,
  why: z.string(),
  by: text.describe('the rule or decision that made the result'),
})

const totals = counts.extend({ files: natural, unread: natural })

/** What a carry of three files or folders tells. */
const carried = {
  dryRun: z.boolean(),
  inputs: z.strictObject({ old: z.string(), new: z.string(), mine: z.string() }),
  out: text.describe('where the result is; null for a forecast'),
  explain: explain.optional().describe('with --explain: what is known of that key'),
  counts: totals,
  findings: z.array(finding).describe('what both sides broke together'),
  files: z.array(
    z.strictObject({
      path: z.string(),
      format: z.enum([...FORMAT_NAMES, 'text', 'other']),
      outcome: z.enum(OUTCOMES),
      was: z.string().optional(),
      counts,
      changes: z.array(change),
      conflicts: z.array(conflict),
      problems: z.array(problem),
      reading: z
        .strictObject({
          encoding: z.string(),
          dialect: z.string(),
          identities: z.record(z.string(), z.string()),
        })
        .optional()
        .describe('how the file was read: encoding, dialect, and place to identity'),
    }),
  ),
}

/** The JSON document of `carry` on paths. */
export const carryDocument = z.strictObject({
  command: z.literal('carry'),
  ...common,
  ...carried,
})

const forecast = z.strictObject({
  carry: natural.describe('edits that carry without a question'),
  ask: natural.describe('edits that need a decision'),
  lost: z.array(
    z.strictObject({
      why: z
        .enum(['policy', 'gone', 'unread'])
        .describe(
          'a policy takes the file of vanilla; vanilla dropped the entry; it cannot be read',
        ),
      count: natural,
      keys: z.array(z.string()),
    }),
  ),
})

const release = z.strictObject({
  label: z.string(),
  revision: z.int().positive().nullable(),
  trial: z.boolean(),
  added: z.string(),
  order: natural.describe('its place in the order of the store, from 0'),
})

/** The JSON document of `carry` in a workspace. */
export const carryVariantsDocument = z.strictObject({
  command: z.literal('carry'),
  ...common,
  dryRun: z.boolean(),
  releases: z.record(z.string(), release),
  explain: explain.optional().describe('with --explain: what is known of that key'),
  variants: z.array(
    z.strictObject({
      ...common,
      ...carried,
      command: z.literal('carry'),
      variant: z.string(),
      from: z.string(),
      to: z.string(),
      draft: text.describe('the name of the draft; null for a forecast'),
      forecast: forecast.optional().describe('with --dry-run'),
    }),
  ),
  counts: totals,
  questions: z.array(questionDocument).describe('over all variants'),
  dropped: z.array(z.string()).optional().describe('the drafts that --drop removed'),
})

/** The JSON document of any command that could not do its work. */
export const failureDocument = z.strictObject({
  command: z.string(),
  ...common,
})

export type CarryVariantsDocument = z.infer<typeof carryVariantsDocument>
export type CarryDocument = z.infer<typeof carryDocument>
export type FailureDocument = z.infer<typeof failureDocument>
