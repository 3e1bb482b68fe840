import { z } from 'zod'
import { common, natural, text } from './document-parts.ts'
import { finding } from './finding-document.ts'

/** The JSON document of `check`. */
export const checkDocument = z.strictObject({
  command: z.literal('check'),
  ...common,
  variant: text,
  draft: text.describe('the draft that was checked; null for what is live, and for a folder'),
  folder: z.string(),
  counts: z.strictObject({ files: natural, checks: natural, findings: natural }),
  findings: z.array(finding),
})

export type CheckDocument = z.infer<typeof checkDocument>
