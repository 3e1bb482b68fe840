import { z } from 'zod'
import { CONFLICT_KINDS } from '../../core/plan/telling.ts'
import { OUTCOMES } from '../../core/report/file-fate.ts'
import { TAKES_OF_DECISIONS } from '../../core/report/remembered.ts'
import { EXIT, Failure } from '../failure.ts'
import type { Disk } from '../io/disk.ts'
import { namesIn } from '../names-in.ts'
import type { StateLayout } from '../state/layout.ts'
import { readState, writeState } from '../state/state-file.ts'

const text = z.string().nullable()
const hash = z.string().regex(/^[0-9a-f]{64}$/)
const natural = z.int().nonnegative()
const position = z.object({ line: z.int(), column: z.int() }).nullable()
const values = { old: text, new: text, mine: text, result: text }

/** The answer that was given where a key was in question for other values. */
const earlier = z.object({ take: z.enum(TAKES_OF_DECISIONS), value: z.string().optional() })

const conflict = z.looseObject({
  key: z.string(),
  kind: z.enum(CONFLICT_KINDS),
  id: z.string(),
  ...values,
  at: z.object({ old: position, new: position, mine: position }),
  perhaps: z.object({ path: z.string(), key: text }).optional(),
  together: z.array(z.string()).optional(),
  earlier: earlier.optional(),
})

/** A key that a decision made: with the name of the conflict that it was, where it was one. */
const closed = z.looseObject({
  key: z.string(),
  id: z.string().optional(),
  wasConflict: z.enum(CONFLICT_KINDS).optional(),
  ...values,
})

/** A file of a draft. */
const draftFile = z.object({
  path: z.string(),
  outcome: z.enum(OUTCOMES),
  /** The path it had in old, where it was renamed. */
  was: z.string().optional(),
  /** SHA-256 of the live file that was read, or where a link leads, behind `link:`; null where there was none. */
  live: text,
  /** SHA-256 of what was written; null where that is no file. */
  written: hash.nullable(),
  /** Whether mine is the live file or the copy in a backup. */
  mine: z.enum(['live', 'kept']),
  kept: z.string().optional(),
  /** The release that is old for it, where each file has its own. */
  old: z.string().optional(),
  conflicts: z.array(conflict),
  closed: z.array(closed),
})

/** Alike changes of vanilla, and a hash of their rows: while that is the same they are the same. */
const group = z.object({
  path: z.string(),
  pattern: z.string(),
  kind: z.string(),
  count: natural,
  rows: hash,
})

/** In how many of the operator's edits of one key pattern one multiple or one difference holds. */
const habit = z.object({
  pattern: z.string(),
  times: z.number().optional(),
  plus: z.number().optional(),
  holds: natural,
  of: natural,
})

const record = z.object({
  schema: z.literal(1),
  variant: z.string(),
  from: z.string(),
  to: z.string(),
  /** ISO time. */
  at: z.string(),
  state: z.enum(['open', 'delivered', 'parcelled']),
  /** What is to be uploaded and deleted, where it was parcelled. */
  parcel: z
    .object({
      schema: z.literal(1),
      variant: z.string(),
      from: z.string(),
      to: z.string(),
      upload: z.array(z.object({ path: z.string(), bytes: natural, sha256: hash })),
      delete: z.array(z.string()),
    })
    .optional(),
  /** When it was put live, the backup of what was live before, and checks whose findings were passed over. */
  delivered: z
    .object({ at: z.string(), backup: z.string(), despite: z.array(z.string()).optional() })
    .optional(),
  sparse: z.boolean(),
  /** What old is: the release, each file its own, or none. */
  old: z.enum(['release', 'guess', 'none']),
  files: z.array(draftFile),
  groups: z.array(group),
  habits: z.array(habit),
  lookedAt: z.array(hash),
  /** SHA-256 of the decisions that are applied in it. */
  decisions: hash,
  /** What tells entries apart, by path and place. */
  identities: z.record(z.string(), z.record(z.string(), z.string())),
})

export type DraftRecord = z.infer<typeof record>
export type DraftFile = z.infer<typeof draftFile>
export type DraftGroup = z.infer<typeof group>

/** A draft with its record. */
export interface Draft {
  name: string
  /** Where its files are. */
  location: string
  record: DraftRecord
}

/** All drafts of a variant, the newest first. */
export async function listDrafts(layout: StateLayout, variant: string): Promise<Draft[]> {
  const drafts: Draft[] = []
  for (const file of namesIn(layout.drafts)) {
    if (!file.endsWith('.json')) continue
    const name = file.slice(0, -5)
    const read = await readState(layout.draftRecord(name), record)
    if (read?.variant === variant) drafts.push({ name, location: layout.draft(name), record: read })
  }
  return drafts.sort((a, b) => (a.record.at < b.record.at ? 1 : -1))
}

/** The draft of a variant that is not delivered; undefined where there is none. */
export async function openDraft(layout: StateLayout, variant: string): Promise<Draft | undefined> {
  return (await listDrafts(layout, variant)).find(({ record: { state } }) => state !== 'delivered')
}

/** The same. @throws Failure where there is none */
export async function requireDraft(layout: StateLayout, variant: string): Promise<Draft> {
  const draft = await openDraft(layout, variant)
  if (draft !== undefined) return draft
  throw new Failure('draft/none', `${variant} has no open draft`, {
    exit: EXIT.refused,
    hint: `anagnosis carry ${variant} --to VERSION makes one`,
    next: [`anagnosis carry ${variant} --to VERSION`],
  })
}

export async function writeRecord(
  layout: StateLayout,
  { name, record: content }: Pick<Draft, 'name' | 'record'>,
  disk: Disk,
): Promise<void> {
  await writeState(layout.draftRecord(name), content, disk)
}

/** Removes a draft: its record first, for a folder alone is none. */
export async function removeDraft(layout: StateLayout, name: string, disk: Disk): Promise<void> {
  await disk.remove(layout.draftRecord(name))
  await disk.remove(layout.draft(name))
  await disk.remove(layout.draftWritten(name))
}
