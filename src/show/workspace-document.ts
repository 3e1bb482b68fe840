import { z } from 'zod'
import { common, natural, text } from './document-parts.ts'

const backup = z.strictObject({
  name: z.string(),
  location: z.string().describe('a plain folder'),
  variant: z.string(),
  folder: z.string(),
  vanilla: z.string(),
  at: z.string().describe('ISO time'),
  files: natural,
  bytes: natural,
  before: z.enum(['deliver', 'restore']).optional().describe('what it was made before'),
  asItIs: z.literal(true).optional().describe('where edits that were gone are gone on purpose'),
})

/** The JSON document of `backup`. */
export const backupDocument = z.strictObject({
  command: z.literal('backup'),
  ...common,
  backups: z.array(backup),
  removed: z.array(backup).describe('older ones, where --keep asked for that'),
  spared: natural.describe('older ones that stay, since they hold the kept copy of a file'),
})

/** The JSON document of `backup list`. */
export const backupsDocument = z.strictObject({
  command: z.literal('backup list'),
  ...common,
  backups: z.array(backup).describe('the newest first'),
})

/** The JSON document of `setup`. */
export const setupDocument = z.strictObject({
  command: z.literal('setup'),
  ...common,
  config: z.enum(['written', 'added-to', 'as-it-was']),
  variant: z.strictObject({ name: z.string(), folder: z.string(), vanilla: z.string() }),
  inStore: z.boolean().describe('whether the store has that vanilla'),
  sparse: z.strictObject({
    is: z.boolean().describe('whether it holds customised files alone'),
    proposed: z
      .strictObject({ files: natural, of: natural })
      .nullable()
      .describe('how few of the files of vanilla it holds, where it may be so'),
  }),
  policies: z.array(
    z.strictObject({ match: z.string(), take: z.string(), reason: z.string(), files: natural }),
  ),
  backup: backup.nullable().describe('null where the variant had one'),
  care: z.strictObject({
    byKey: natural,
    others: natural,
    vanilla: natural,
    mine: natural,
    leftOut: natural,
    notFiles: z.array(z.string()),
  }),
})

/** The JSON document of `overview`. */
export const overviewDocument = z.strictObject({
  command: z.literal('overview'),
  ...common,
  game: text,
  installed: z
    .strictObject({ version: text, at: z.string(), inStore: z.boolean() })
    .nullable()
    .describe('what the installed game says of its version; null where version-at is not set'),
  releases: z.array(z.string()),
  variants: z.array(
    z.strictObject({
      name: z.string(),
      folder: z.string(),
      there: z.boolean(),
      vanilla: z.string(),
      vanillaAdded: text.describe('ISO time; null where the store has it not'),
      newer: z.array(z.string()),
      agrees: z.boolean().nullable().describe('whether the installed game is of the same version'),
      backups: z.array(backup).describe('the newest first'),
      wiped: z
        .array(z.strictObject({ path: z.string(), key: z.string(), value: text }))
        .describe('edits that the kept copies have and the live folder has not'),
      installed: z
        .strictObject({ version: text, at: z.string() })
        .nullable()
        .describe('what the game of this variant says, where the config says where'),
      drafts: z
        .array(
          z.strictObject({
            name: z.string(),
            to: z.string(),
            at: z.string(),
            open: natural.describe('keys that are open'),
            notLookedAt: natural.describe('groups of changes that nobody looked at'),
            state: z.enum(['open', 'delivered', 'parcelled']),
          }),
        )
        .describe('the newest first'),
      download: text
        .optional()
        .describe('of a download of a host: when its newest file was written'),
      conflicts: natural.describe('keys that are open in the open draft'),
      lastDelivery: z
        .strictObject({ at: z.string(), draft: z.string(), vanilla: z.string() })
        .nullable(),
    }),
  ),
})

export type BackupDocument = z.infer<typeof backupDocument>
export type BackupsDocument = z.infer<typeof backupsDocument>
export type SetupDocument = z.infer<typeof setupDocument>
export type OverviewDocument = z.infer<typeof overviewDocument>
