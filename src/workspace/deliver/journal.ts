import { z } from 'zod'
import { EXIT, Failure } from '../failure.ts'
import type { Disk } from '../io/disk.ts'
import { namesIn } from '../names-in.ts'
import type { StateLayout } from '../state/layout.ts'
import { readState, writeState } from '../state/state-file.ts'

/** What stands at a path: the SHA-256 of a file, or where a link leads, behind `link:`; null where nothing is. */
const content = z.string().nullable()

const step = z.object({
  path: z.string(),
  do: z.enum(['write', 'add', 'remove']),
  before: content,
  after: content,
  /** Whether it is put there though its content is the same: its mode or its time differs. */
  form: z.boolean().optional(),
})

const journal = z.object({
  schema: z.literal(1),
  kind: z.enum(['deliver', 'restore']),
  variant: z.string(),
  /** ISO time. */
  at: z.string(),
  /** What the names of files that are written beside begin with, behind `.anagnosis-`. */
  id: z.string(),
  /** The live folder, its links resolved. */
  folder: z.string(),
  /** Where what is put live is: the folder of a draft or of a backup. */
  source: z.string(),
  /** The draft that is delivered, or the backup that is put back. */
  from: z.string(),
  /** The backup of what was live. */
  backup: z.string(),
  /** How the config wrote the vanilla before, so that to undo gives every byte back. */
  written: z.string().optional(),
  vanilla: z.object({ was: z.string(), now: z.string() }),
  /** Checks whose findings were passed over. */
  despite: z.array(z.string()).optional(),
  steps: z.array(step),
})

export type Journal = z.infer<typeof journal>
export type Step = z.infer<typeof step>

export async function readJournal(
  layout: StateLayout,
  variant: string,
): Promise<Journal | undefined> {
  return readState(layout.journal(variant), journal)
}

export async function writeJournal(
  layout: StateLayout,
  content: Journal,
  disk: Disk,
): Promise<void> {
  await disk.makeFolder(layout.journals)
  await writeState(layout.journal(content.variant), content, disk)
}

/** The variants with a delivery or a restore that did not come to its end. */
export function unfinishedVariants(layout: StateLayout): string[] {
  return namesIn(layout.journals)
    .filter((name) => name.endsWith('.json') && !name.startsWith('.'))
    .map((name) => name.slice(0, -5))
}

/** @throws Failure where a delivery of the variant did not come to its end */
export function refuseUnfinished(layout: StateLayout, variant: string): void {
  if (!unfinishedVariants(layout).includes(variant)) return
  throw unfinished(variant)
}

export function unfinished(variant: string): Failure {
  return new Failure(
    'deliver/unfinished',
    `a delivery or a restore of ${variant} did not come to its end`,
    {
      exit: EXIT.refused,
      hint: '--undo puts back what was live before, --finish does the rest',
      next: [`anagnosis deliver ${variant} --undo`, `anagnosis deliver ${variant} --finish`],
    },
  )
}
