import { z } from 'zod'
import { FORMAT_NAMES, JSON_DIALECTS } from '../../core/formats/index.ts'

/** `format` of a file rule as a mapping: the format, and what is said of its dialect. */
export const dialectRule = z.strictObject({
  name: z.enum(FORMAT_NAMES),
  dialect: z
    .enum(JSON_DIALECTS)
    .optional()
    .describe('JSON: strict; comments (and trailing commas); json5'),
  separator: z
    .enum(['=', ':', 'blank'])
    .optional()
    .describe('INI: what parts a name from its value'),
  'bare-names': z.boolean().optional().describe('INI: whether a line may be a name alone'),
  'comments-after-values': z
    .boolean()
    .optional()
    .describe('INI: whether a blank and ; or # after a value begin a comment'),
  'slash-comments': z.boolean().optional().describe('INI: whether // begins a comment'),
  'braces-over-lines': z
    .boolean()
    .optional()
    .describe('INI: whether a value that opens a brace goes on until it is closed'),
  'open-quotes': z
    .enum(['error', 'lines', 'literal'])
    .optional()
    .describe('INI: what a quote is that is not closed on its line'),
})

/** `format` of a file rule. */
export const formatRule = z.union([z.enum(FORMAT_NAMES), dialectRule])
export type FormatRule = z.infer<typeof formatRule>
