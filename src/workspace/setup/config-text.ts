import { isMap, isNode, parseDocument } from 'yaml'
import { STATE_NAME } from '../state/layout.ts'
import type { Policy } from '../../core/facts/setup.ts'

/** What a setup says of one variant. */
export interface NewVariant {
  name: string
  folder: string
  vanilla: string
  /** Whether the folder holds customised files alone. */
  sparse?: boolean
}

export interface NewConfig {
  game: string | undefined
  versionAt: string | undefined
  variant: NewVariant
  policies: readonly Policy[]
}

/** The name of the schema beside the state, so that editors complete the config. */
export const SCHEMA_NAME = 'anagnosis.schema.json'

/** The text of a new `anagnosis.yaml`, with the reasons of what it says. */
export function newConfigText({ game, versionAt, variant, policies }: NewConfig): string {
  const lines = [
    `# yaml-language-server: $schema=${STATE_NAME}/${SCHEMA_NAME}`,
    ...(game === undefined ? [] : [`game: ${quoted(game)}`]),
    ...(versionAt === undefined
      ? [
          '# version-at: "game/build.json: release"  # where the installed game says its own version',
        ]
      : [`version-at: ${quoted(versionAt)}  # where the installed game says its own version`]),
    '# labels of vanillas stand in quotes: a bare 4.10 is the number 4.1',
    'variants:',
    `  ${key(variant.name)}: ${variantText(variant)}`,
    '# The first match decides; what matches none is merged key by key.',
    policies.length === 0 ? 'files: []' : 'files:',
    ...policies.flatMap(({ match, take, reason }) => [
      `  # ${reason}`,
      `  - { match: ${quoted(match)}, take: ${take} }`,
    ]),
  ]
  return `${lines.join('\n')}\n`
}

/** The text of an `anagnosis.yaml` with one more variant; all else stays as it is, byte for byte. */
export function withVariant(source: string, variant: NewVariant): string {
  const lineEnd = source.includes('\r\n') ? '\r\n' : '\n'
  const entry = `${key(variant.name)}: ${variantText(variant)}`
  const document = parseDocument(source)
  const variants: unknown = document.get('variants', true)
  if (!document.has('variants')) {
    const gap = source === '' || source.endsWith('\n') ? '' : lineEnd
    return `${source}${gap}variants:${lineEnd}  ${entry}${lineEnd}`
  }
  const last = isMap(variants) && variants.flow !== true ? variants.items.at(-1) : undefined
  if (!isNode(last?.key) || !isNode(last.value) || !last.key.range || !last.value.range) {
    const { name, ...members } = variant
    document.setIn(['variants', name], document.createNode(members, { flow: true }))
    return document.toString({ lineWidth: 0 })
  }
  // behind the line on which the last variant ends, as far in as that one begins
  const start = last.key.range[0]
  const indent = source.slice(source.lastIndexOf('\n', start - 1) + 1, start)
  const lineStop = source.indexOf('\n', Math.max(start, last.value.range[1] - 1))
  const at = lineStop < 0 ? source.length : lineStop + 1
  const before = source.slice(0, at)
  return `${before}${before.endsWith('\n') ? '' : lineEnd}${indent}${entry}${lineEnd}${source.slice(at)}`
}

/** The text of an `anagnosis.yaml` in which a variant holds customised files alone; all else stays as it is. */
export function withSparse(source: string, name: string): string {
  const document = parseDocument(source)
  const map: unknown = document.getIn(['variants', name], true)
  const last = isMap(map) ? map.items.at(-1) : undefined
  if (!isMap(map) || !isNode(last?.key) || !isNode(last.value) || !last.value.range) {
    document.setIn(['variants', name, 'sparse'], true)
    return document.toString({ lineWidth: 0 })
  }
  const at = last.value.range[1]
  if (map.flow === true) return `${source.slice(0, at)}, sparse: true${source.slice(at)}`
  const start = last.key.range?.[0] ?? 0
  const indent = source.slice(source.lastIndexOf('\n', start - 1) + 1, start)
  const lineEnd = source.includes('\r\n') ? '\r\n' : '\n'
  const stop = source.indexOf('\n', at - 1)
  const end = stop < 0 ? source.length : stop + 1
  const before = source.slice(0, end)
  const gap = before.endsWith('\n') ? '' : lineEnd
  return `${before}${gap}${indent}sparse: true${lineEnd}${source.slice(end)}`
}

function variantText({ folder, vanilla, sparse }: NewVariant): string {
  const more = sparse === true ? ', sparse: true' : ''
  return `{ folder: ${quoted(folder)}, vanilla: ${JSON.stringify(vanilla)}${more} }`
}

/** A text as YAML takes it for nothing but text: in double quotes, as in JSON. */
function quoted(text: string): string {
  return JSON.stringify(text)
}

function key(name: string): string {
  return /^[A-Za-z_][\w-]*$/.test(name) ? name : JSON.stringify(name)
}
