import { z } from 'zod'
import { common, natural, text } from './document-parts.ts'

const vanilla = z.strictObject({ was: z.string(), now: z.string() })

/** The JSON document of `deliver`. */
export const deliverDocument = z.strictObject({
  command: z.literal('deliver'),
  ...common,
  variant: z.string(),
  draft: text,
  dryRun: z.boolean(),
  despite: z.array(z.string()).describe('checks whose findings were passed over'),
  backup: text.describe('the backup of what was live; null where nothing was put live'),
  vanilla,
  counts: z.strictObject({ written: natural, added: natural, removed: natural, same: natural }),
  files: z.array(
    z.strictObject({ path: z.string(), did: z.enum(['written', 'added', 'removed']) }),
  ),
  refusals: z.array(z.strictObject({ code: z.string(), message: z.string(), path: text })),
  notLookedAt: natural.describe('groups of changes of vanilla that nobody looked at'),
  reminders: z.array(z.string()),
  ended: z.enum(['finish', 'undo']).optional().describe('how an unfinished delivery was ended'),
  parcel: z
    .strictObject({ location: z.string(), upload: natural, delete: natural })
    .nullable()
    .describe('where what is to be uploaded was written, and how many files that are'),
  findings: z
    .array(z.strictObject({ path: z.string(), check: z.string(), message: z.string() }))
    .optional()
    .describe('with --confirm: what did not arrive as it should'),
})

/** The JSON document of `deliver --each`. */
export const deliverEachDocument = z.strictObject({
  command: z.literal('deliver'),
  ...common,
  variants: z.array(deliverDocument),
})

/** The JSON document of `restore`. */
export const restoreDocument = z.strictObject({
  command: z.literal('restore'),
  ...common,
  variant: z.string(),
  backup: z.string(),
  before: text.describe('the backup of what was live before; null where nothing was put back'),
  vanilla,
  files: z.array(
    z.strictObject({ path: z.string(), did: z.enum(['put-back', 'removed', 'appeared']) }),
  ),
})

export type DeliverDocument = z.infer<typeof deliverDocument>
export type RestoreDocument = z.infer<typeof restoreDocument>
export type DeliverEachDocument = z.infer<typeof deliverEachDocument>
