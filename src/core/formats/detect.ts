import type { FormatName } from './format.ts'

const BY_EXTENSION: Record<string, FormatName> = {
  xml: 'xml',
  json: 'json',
  jsonc: 'json',
  json5: 'json',
  ini: 'ini',
}

/** Extensions of what is no data by key: their content is not asked. */
const NO_FORMAT = new Set([
  'txt',
  'md',
  'html',
  'htm',
  'csv',
  'log',
  'lua',
  'js',
  'png',
  'dll',
  'exe',
])

function extensionOf(path: string): string {
  const name = path.slice(path.lastIndexOf('/') + 1)
  const dot = name.lastIndexOf('.')
  return dot < 0 ? '' : name.slice(dot + 1).toLowerCase()
}

/** The format that a path's extension names, if it names one. */
export function formatOfPath(path: string): FormatName | undefined {
  const extension = extensionOf(path)
  return Object.hasOwn(BY_EXTENSION, extension) ? BY_EXTENSION[extension] : undefined
}

/** Whether a path's extension says that the file is not merged by key, so that its content need not be asked. */
export function isPlainPath(path: string): boolean {
  return NO_FORMAT.has(extensionOf(path))
}

/** So many code units show how a text begins. */
const LOOKED_AT = 4096

/** The format that a text looks like, judged by how it begins; undefined where it is none that is known. */
export function formatOfText(text: string): FormatName | undefined {
  const start = text.trimStart().slice(0, LOOKED_AT)
  if (/^<(\?xml|!--|!DOCTYPE|[A-Za-z_])/.test(start)) return 'xml'
  if (/^(\{|\[\s*(["{[\]]|-?[0-9]|true|false|null))/.test(start)) return 'json'
  const solid = firstSolidLine(text)
  return looksLikeIni(text.slice(solid, solid + LOOKED_AT)) ? 'ini' : undefined
}

/** The offset of the first line that is neither blank nor a comment of INI: some files begin with pages of those. */
function firstSolidLine(text: string): number {
  const lines = /[^\r\n]*(\r\n|\r|\n|$)/g
  let at = 0
  while (at < text.length) {
    lines.lastIndex = at
    const [line = ''] = lines.exec(text) ?? []
    if (!/^\s*([;#]|$)/.test(line)) break
    at += line.length
  }
  return at
}

/**
 * A section, and nothing but sections, comments and `name = value` in the lines before the last; where `[/name]`
 * closes one, they stand in each other, and then it is no INI.
 */
function looksLikeIni(start: string): boolean {
  const lines = start.split(/\r\n|\r|\n/)
  if (lines.length > 1) lines.pop()
  const solid = lines
    .map((line) => line.trim())
    .filter((line) => line !== '' && !/^[;#]/.test(line))
  const sections = solid.filter((line) => /^\[[^\]]+\]\s*([;#].*)?$/.test(line))
  if (sections.some((line) => line.startsWith('[/'))) return false
  const properties = solid.filter((line) => /^[\w.\-+ ]+\s*=/.test(line))
  return sections.length > 0 && sections.length + properties.length === solid.length
}
