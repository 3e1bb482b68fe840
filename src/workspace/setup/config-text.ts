import { isMap, parseDocument } from 'yaml'
import { STATE_NAME } from '../state/layout.ts'
import type { Policy } from './policies.ts'

/** What a setup says of one variant. */
export interface NewVariant {
  name: string
  folder: string
  vanilla: string
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

/** The text of an `anagnosis.yaml` with one more variant; all else stays as it is, comments too. */
export function withVariant(source: string, { name, folder, vanilla }: NewVariant): string {
  const document = parseDocument(source)
  const label = document.createNode(vanilla)
  label.type = 'QUOTE_DOUBLE'
  const node = document.createNode({ folder, vanilla: label }, { flow: true })
  if (!isMap(document.get('variants', true))) document.set('variants', document.createNode({}))
  document.setIn(['variants', name], node)
  return document.toString({ lineWidth: 0 })
}

function variantText({ folder, vanilla }: NewVariant): string {
  return `{ folder: ${quoted(folder)}, vanilla: ${JSON.stringify(vanilla)} }`
}

/** A text as YAML takes it for nothing but text: in double quotes, as in JSON. */
function quoted(text: string): string {
  return JSON.stringify(text)
}

function key(name: string): string {
  return /^[A-Za-z_][\w-]*$/.test(name) ? name : JSON.stringify(name)
}
