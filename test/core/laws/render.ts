import type { FormatName } from '../../../src/core/formats/index.ts'
import type { Entry, Model, Style } from './model.ts'

/** Writes a model down in one format and style, and reads one back for the tests' own comparison. */
export interface Renderer {
  name: FormatName
  /** How deep the format can nest entries. */
  depth: number
  render(model: Model, style: Style): string
}

const values = (entry: Entry, style: Style): [string, string][] =>
  style.reversedValues ? [...entry.values].reverse() : entry.values

class Lines {
  readonly lines: string[] = []
  constructor(readonly style: Style) {}
  add(depth: number, text: string): void {
    this.lines.push(text === '' ? '' : this.style.indent.repeat(depth) + text)
  }
  text(): string {
    const { lineEnd, finalLineEnd } = this.style
    const end = (at: number): string =>
      lineEnd === 'mixed' ? (at % 2 === 0 ? '\r\n' : '\n') : lineEnd
    const last = this.lines.length - 1
    return this.lines.map((line, at) => line + (at < last || finalLineEnd ? end(at) : '')).join('')
  }
}

function xmlEscape(text: string, { escaping }: Style): string {
  if (escaping === 'number')
    return text.replace(/[&<]/g, (each) => `&#x${each.charCodeAt(0).toString(16)};`)
  return text.replace(/&/g, '&amp;').replace(/</g, '&lt;')
}

/** The text of an element: escaped, or in a CDATA section where it holds what would be escaped. */
function xmlText(text: string, style: Style): string {
  return style.escaping === 'cdata' && /[&<]/.test(text)
    ? `<![CDATA[${text}]]>`
    : xmlEscape(text, style)
}

function xmlEntry(out: Lines, depth: number, entry: Entry): void {
  const { quote, loose } = out.style
  const equals = loose ? ' = ' : '='
  if (entry.gap) out.add(0, '')
  if (entry.free !== '') {
    out.add(depth, `<!-- ${entry.free} -->`)
    out.add(0, '')
  }
  for (const text of entry.above) out.add(depth, `<!-- ${text} -->`)
  const behind = entry.behind === '' ? '' : ` <!-- ${entry.behind} -->`
  const attributes = values(entry, out.style).filter(
    ([name]) => name === 'depth' || name === 'hours',
  )
  const elements = entry.values.filter(([name]) => name !== 'depth' && name !== 'hours')
  const identity: [string, string][] = entry.id === '' ? [] : [['id', entry.id]]
  const written = [...identity, ...attributes]
  if (out.style.reversedValues) written.reverse()
  const tag = `<find${written.map(([name, text]) => ` ${name}${equals}${quote}${xmlEscape(text, out.style).replaceAll(quote, quote === '"' ? '&quot;' : '&apos;')}${quote}`).join('')}`
  if (elements.length + entry.parts.length === 0) {
    out.add(depth, `${tag}${loose ? ' ' : ''}/>${behind}`)
    return
  }
  out.add(depth, `${tag}${loose ? ' ' : ''}>`)
  for (const [name, text] of elements) {
    out.add(
      depth + 1,
      text === '' ? `<${name}/>` : `<${name}>${xmlText(text, out.style)}</${name}>`,
    )
  }
  for (const part of entry.parts) xmlEntry(out, depth + 1, part)
  out.add(depth, `</find${loose ? ' ' : ''}>${behind}`)
}

const xml: Renderer = {
  name: 'xml',
  depth: 1,
  render(model, style) {
    const out = new Lines(style)
    out.add(0, `<finds>`)
    for (const entry of model.entries) xmlEntry(out, 1, entry)
    if (model.last !== '') out.add(1, `<!-- ${model.last} -->`)
    out.add(0, '</finds>')
    return out.text()
  },
}

function jsonEntry(out: Lines, depth: number, entry: Entry, comma: string): void {
  if (entry.gap) out.add(0, '')
  if (entry.free !== '') {
    out.add(depth, jsonComment(entry.free))
    out.add(0, '')
  }
  for (const text of entry.above) out.add(depth, jsonComment(text))
  const behind = entry.behind === '' ? '' : ` // ${entry.behind}`
  out.add(depth, '{')
  const members = [
    ...(entry.id === '' ? [] : [['id', JSON.stringify(entry.id)]]),
    ...entry.values.map(([name, text]) => [name, jsonScalar(text)]),
  ]
  if (out.style.reversedValues) members.reverse()
  const lines = members.map(([name, text]) => `"${name}": ${text}`)
  lines.forEach((line) => out.add(depth + 1, `${line},`))
  if (entry.parts.length === 0) out.add(depth + 1, '"parts": []')
  else {
    out.add(depth + 1, '"parts": [')
    entry.parts.forEach((part, i) =>
      jsonEntry(out, depth + 2, part, i < entry.parts.length - 1 ? ',' : ''),
    )
    out.add(depth + 1, ']')
  }
  out.add(depth, `}${comma}${behind}`)
}

function jsonComment(text: string): string {
  return text.includes('\n') ? `/* ${text} */` : `// ${text}`
}

function jsonScalar(text: string): string {
  if (text.startsWith('[')) return text
  return /^[0-9]+$/.test(text) ? text : JSON.stringify(text)
}

const json: Renderer = {
  name: 'json',
  depth: 1,
  render(model, style) {
    const out = new Lines(style)
    out.add(0, '{ "finds": [')
    model.entries.forEach((entry, i) =>
      jsonEntry(out, 1, entry, i < model.entries.length - 1 ? ',' : ''),
    )
    if (model.last !== '') out.add(1, jsonComment(model.last))
    out.add(0, '] }')
    return out.text()
  },
}

function iniComment(text: string): string {
  return text.replace(/^/gm, '; ')
}

const ini: Renderer = {
  name: 'ini',
  depth: 0,
  render(model, style) {
    const out = new Lines({ ...style, indent: '' })
    for (const entry of model.entries) {
      if (entry.gap) out.add(0, '')
      if (entry.free !== '') {
        out.add(0, iniComment(entry.free))
        out.add(0, '')
      }
      for (const text of entry.above) out.add(0, iniComment(text))
      out.add(
        0,
        `[${entry.id === '' ? 'find' : entry.id}]${entry.behind === '' ? '' : ` ; ${entry.behind}`}`,
      )
      for (const [name, text] of entry.values)
        out.add(0, `${name} = ${text.replace(/\n[ \t]*/g, '\n    ')}`.trimEnd())
    }
    if (model.last !== '') {
      out.add(0, '')
      out.add(0, iniComment(model.last))
    }
    return out.text()
  },
}

const BY_FORMAT: Record<FormatName, Renderer> = { xml, json, ini }

export const renderers: readonly Renderer[] = Object.values(BY_FORMAT)

/** The same without anything that tells entries apart: they are found by their likeness alone. */
export const withoutIdentity: readonly Renderer[] = [
  { ...xml, render: (model, style) => xml.render(model, style).replace(/ id=(["'])[^"']*\1/g, '') },
  {
    ...json,
    render: (model, style) =>
      json.render(model, style).replace(/"id": "[^"]*"(, *|,(?=\r?\n))?/g, '"kind": "find"$1'),
  },
  { ...ini, render: (model, style) => ini.render(model, style).replace(/^\[[^\]]*\]/gm, '[find]') },
]

/** The same with identities that stand for several entries each. */
export const sharedIdentity: readonly Renderer[] = renderers.map((renderer) => ({
  ...renderer,
  render: (model, style) =>
    renderer
      .render(model, style)
      .replace(
        /\b(?:e|new)([0-9]+)((?:p[0-9]+)?)\b/g,
        (_, n: string, part: string) => `same${Number(n) % 2}${part}`,
      ),
}))
