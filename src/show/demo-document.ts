import { z } from 'zod'
import { common, natural } from './document-parts.ts'

/** The JSON document of `demo`. */
export const demoDocument = z.strictObject({
  command: z.literal('demo'),
  ...common,
  folder: z.string(),
  steps: z.array(
    z.strictObject({
      call: z.array(z.string()).describe('the arguments of anagnosis'),
      exit: natural,
      document: z.unknown().describe('what it printed with --json'),
    }),
  ),
})

export type DemoDocument = z.infer<typeof demoDocument>
