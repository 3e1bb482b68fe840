import { z } from 'zod'

/** `FILES: KEYS`. */
export const keyPlace = z
  .string()
  .regex(/^[^:]+: .+$/, 'files and keys are expected: "salvage/finds.xml: find[*]/@id"')
  .describe('Files and the keys in them, as patterns: "salvage/finds.xml: find[*]/@id"')

/** `FILES: KEYS`, or files or folders alone. */
export const anyPlace = z
  .string()
  .min(1)
  .describe('Files and keys, or files alone, or folders with a / at the end: "add-ons/*/"')

/** What every check may say. */
export const common = {
  since: z
    .string()
    .min(1)
    .optional()
    .describe('The release from which on the check holds, in quotes: "4.2"'),
}
