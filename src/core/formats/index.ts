import type { Format, FormatName } from './format.ts'
import { ini } from './ini/index.ts'
import { json } from './json/index.ts'
import { xml } from './xml/index.ts'

export { FORMAT_NAMES } from './format.ts'
export { JSON_DIALECTS } from './json/dialect.ts'
export type { DialectSettings, Format, FormatName } from './format.ts'

const formats: Record<FormatName, Format> = { xml, json, ini }

/** The format of that name. */
export function formatNamed(name: FormatName): Format {
  return formats[name]
}
