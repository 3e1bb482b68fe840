import { z } from 'zod'
import { common, natural, text } from './document-parts.ts'

const release = z.strictObject({
  name: z.string().describe('the label, and the revision of a trial: 4.2, 4.2+1'),
  label: z.string(),
  revision: z.int().positive().nullable().describe('null for a release that is final'),
  added: z.string().describe('ISO time'),
  sources: z.array(z.string()),
  onto: text,
  files: natural,
  bytes: natural,
  newBytes: natural.describe('what no release before had'),
})

/** The JSON document of `vanilla add`. */
export const addedDocument = z.strictObject({
  command: z.literal('vanilla add'),
  ...common,
  release,
  sameAs: text.describe('the trial revision that it is the same as: nothing was added'),
  says: text.describe('what its own files say of its version, where that is not the label'),
})

/** The JSON document of `vanilla list`. */
export const listedDocument = z.strictObject({
  command: z.enum(['vanilla list', 'vanilla order']),
  ...common,
  bytes: natural.describe('of all content, each once'),
  releases: z.array(release.extend({ variants: z.array(z.string()) })),
})

/** The JSON document of `vanilla verify`. */
export const verifiedDocument = z.strictObject({
  command: z.literal('vanilla verify'),
  ...common,
  counts: z.strictObject({ releases: natural, files: natural, bytes: natural, findings: natural }),
  findings: z.array(
    z.strictObject({
      release: z.string(),
      path: z.string().describe('empty where it is the list of the release'),
      what: z.enum(['missing', 'altered']),
    }),
  ),
})

/** The JSON document of `vanilla remove`. */
export const removedDocument = z.strictObject({
  command: z.literal('vanilla remove'),
  ...common,
  release: z.string(),
  freedBytes: natural,
})

/** The JSON document of `vanilla guess`. */
export const guessedDocument = z.strictObject({
  command: z.literal('vanilla guess'),
  ...common,
  release: text.describe('what most of the folder was made from'),
  clean: z.boolean(),
  equals: z.array(z.string()).describe('all releases that the folder equals, that one first'),
  others: z.array(z.strictObject({ release: z.string(), files: z.array(z.string()) })),
  missing: z.array(z.string()).describe('files of that release that the folder lacks'),
  files: z.array(
    z.strictObject({
      path: z.string(),
      releases: z
        .array(z.string())
        .describe('empty where it is unknown or the own file of the folder'),
      share: z.number().min(0).max(1).describe('of its keys and values that are that release’s'),
      clean: z.boolean(),
      differs: natural.nullable().describe('in so many keys'),
      own: z.boolean().describe('no release has a file of this path'),
    }),
  ),
})

export type AddedDocument = z.infer<typeof addedDocument>
export type ListedDocument = z.infer<typeof listedDocument>
export type VerifiedDocument = z.infer<typeof verifiedDocument>
export type RemovedDocument = z.infer<typeof removedDocument>
export type GuessedDocument = z.infer<typeof guessedDocument>
