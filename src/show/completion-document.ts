import { z } from 'zod'
import { common } from './document-parts.ts'

/** The JSON document of `completion`. */
export const completionDocument = z.strictObject({
  command: z.literal('completion'),
  ...common,
  script: z.string().describe('what the shell is to run'),
})

export type CompletionDocument = z.infer<typeof completionDocument>
