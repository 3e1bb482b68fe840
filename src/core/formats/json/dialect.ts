/**
 * What a family of JSON files allows: nothing beside the standard; comments and trailing commas; or all
 * of JSON5.
 */
export const JSON_DIALECTS = ['strict', 'comments', 'json5'] as const
export type JsonDialect = (typeof JSON_DIALECTS)[number]
