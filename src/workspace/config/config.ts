import { readFile } from 'node:fs/promises'
import type { Document, LineCounter as Lines, Node } from 'yaml'
import { isMap, isNode, isScalar } from 'yaml'
import { z } from 'zod'
import { EXIT, Failure, systemFailure } from '../failure.ts'
import { nodeAt, readYaml, shownSteps } from '../read-yaml.ts'
import { unholdable } from '../source/safe-path.ts'
import { zodFault } from '../zod-words.ts'
import { dialectRule, formatRule } from './format-config.ts'
import { CHECKS } from '../../core/checks/index.ts'
import { nearest } from '../../core/keys/nearest.ts'

export const TAKES = ['vanilla', 'mine', 'merge', 'leave-out'] as const
export type Take = (typeof TAKES)[number]

const fileRule = z.strictObject({
  match: z.string().min(1).describe('Which files, as a pattern on their path: salvage/*.xml'),
  take: z
    .enum(TAKES)
    .optional()
    .describe('Whose file the result gets; merge where nothing is said'),
  format: formatRule
    .optional()
    .describe('The format, where the extension does not tell it; and of its dialect what is known'),
  identity: z
    .record(z.string(), z.string().min(1))
    .optional()
    .describe('Place to identity: what tells the entries there apart, such as find: "@id"'),
  order: z
    .record(z.string(), z.literal('matters'))
    .optional()
    .describe('Places where the order of entries carries meaning: a clash of orders is a conflict'),
  list: z
    .record(z.string(), z.string().min(1))
    .optional()
    .describe('Places whose one value holds a list, and what separates its items'),
  together: z
    .array(z.array(z.string().min(1)).min(2))
    .optional()
    .describe(
      'Groups of places that only make sense together: a clash in one is a question of all',
    ),
})

const versionAt = z
  .string()
  .regex(/^[^:]+: .+$/, 'a file and a key in it are expected: "game/build.json: release"')
  .optional()

const variant = z.strictObject({
  folder: z.string().min(1).describe('The live folder, from the folder of this file'),
  vanilla: z
    .string()
    .min(1)
    .describe(
      'The label of the vanilla that it was made from, in quotes: "4.1"; none where nobody has it',
    ),
  sparse: z
    .boolean()
    .optional()
    .describe('Whether the folder holds only the files that were customised'),
  upload: z
    .boolean()
    .optional()
    .describe('Whether the folder is a download of a host, to which files are uploaded'),
  'version-at': versionAt.describe(
    'Where the game of this variant says its own version, from the folder of the variant',
  ),
})

const FILE_NAME = /^[^/\\<>:"|?*\u0000-\u001f]*[^/\\<>:"|?*\u0000-\u001f. ]$/

/** Whether a name can be a part of a file's name everywhere. */
export function isVariantName(name: string): boolean {
  return FILE_NAME.test(name) && unholdable(name) === undefined
}

const NO_NAME = 'this cannot be the name of a variant'
const variantName = z.string().regex(FILE_NAME, NO_NAME).refine(isVariantName, NO_NAME)

/** A check of any kind; which one is told by the member that only that kind has. */
const check = z.union(CHECKS.map(({ schema }) => schema))

/** `anagnosis.yaml`, as far as it is built. */
export const configSchema = z.strictObject({
  game: z.string().min(1).optional().describe('The name of the game, for people'),
  'version-at': versionAt.describe(
    'Where the installed game says its own version: "game/build.json: release"',
  ),
  store: z
    .string()
    .min(1)
    .optional()
    .describe('Where vanillas and backups are kept; .anagnosis beside this file by default'),
  variants: z
    .record(variantName, variant)
    .optional()
    .describe('The customised copies that you run, by name'),
  files: z
    .array(fileRule)
    .optional()
    .describe('What to do with which files; the first match decides'),
  checks: z
    .array(check)
    .optional()
    .describe('What must hold in the files of a variant, beside that they are well formed'),
  reminders: z
    .array(z.string().min(1))
    .optional()
    .describe('What is to be done after a delivery, for people: "Restart the server"'),
})

export type FileRule = z.infer<typeof fileRule>

export type Config = z.infer<typeof configSchema>

/** Keys of the design that no command reads yet: they are refused, and not taken for typing errors. */
const PLANNED: Record<string, readonly string[]> = {
  '': ['rules'],
}

const KNOWN: Record<string, readonly string[]> = {
  '': Object.keys(configSchema.shape),
  'variants *': Object.keys(variant.shape),
  files: Object.keys(fileRule.shape),
  checks: [...new Set(CHECKS.flatMap(({ schema }) => Object.keys(schema.shape)))],
  'files format': Object.keys(dialectRule.shape),
}

/** Reads and checks a config file; what is wrong in it is a failure that names the place. */
export async function readConfig(path: string): Promise<Config> {
  const source = await readFile(path, 'utf8').catch((error: unknown) => {
    throw systemFailure(error, 'Reading the config', path)
  })
  return parseConfig(source, path)
}

/** Checks the text of a config file. @throws Failure with line, column and the nearest right name */
export function parseConfig(source: string, path: string): Config {
  const { document, lines, content, fault } = readYaml(source)
  const place = { source, path, document, lines }
  if (fault !== undefined) throw failureAt(place, fault.at, `this is no YAML: ${fault.message}`)
  const parsed = configSchema.safeParse(content ?? {})
  if (parsed.success) return parsed.data
  const issues = parsed.error.issues.flatMap((each) => meant(each, document))
  const issue = issues.find((each) => each.code === 'unrecognized_keys') ?? issues[0]
  throw issue === undefined ? new Error('no issue') : issueFailure(place, issue)
}

interface ConfigPlace {
  source: string
  path: string
  document: Document
  lines: Lines
}

/** Of a value that may be one word or a mapping: what is wrong with it as that which it is. */
function meant(issue: z.core.$ZodIssue, document: Document): z.core.$ZodIssue[] {
  if (issue.code !== 'invalid_union') return [issue]
  const isMapping = isMap(document.getIn(issue.path, true))
  const isCheck = issue.path[0] === 'checks' && issue.path.length === 2
  if (isCheck && isMapping && !isKnownKind(document.getIn(issue.path)))
    return [{ ...issue, code: 'custom', message: NO_KIND }]
  const fits = isCheck
    ? nearestMeant(issue.errors, namesIn(document.getIn(issue.path)))
    : issue.errors.find((each) => isMapping === each.every(isOfMapping))
  return (fits ?? []).map((each) => ({ ...each, path: [...issue.path, ...each.path] }))
}

const NO_KIND = `nothing says what is checked; the kinds are ${CHECKS.map(({ kind }) => kind).join(', ')}`

/** Whether a check, or what is meant to be one, has a member that tells its kind, perhaps mistyped. */
function isKnownKind(check: unknown): boolean {
  const names = namesIn(check)
  const kinds = CHECKS.map(({ kind }): string => kind)
  return names.some((name) => kinds.includes(name) || !KNOWN.checks?.includes(name))
}

function namesIn(mapping: unknown): string[] {
  return isMap(mapping) ? mapping.items.map(({ key }) => String(key)) : []
}

/**
 * Of a check: what is wrong with it as the kind that it names, or that it fits best.
 *
 * @param errors those of each kind of check, in their order
 */
function nearestMeant(
  errors: readonly z.core.$ZodIssue[][],
  names: readonly string[],
): z.core.$ZodIssue[] | undefined {
  const named = errors.filter((_, at) => names.includes(CHECKS[at]?.kind ?? ''))
  const wrong = (issues: readonly z.core.$ZodIssue[]): number =>
    issues.reduce(
      (sum, each) => sum + (each.code === 'unrecognized_keys' ? each.keys.length : 1),
      0,
    )
  return [...(named.length > 0 ? named : errors)].sort((a, b) => wrong(a) - wrong(b))[0]
}

function isOfMapping({ code, path }: z.core.$ZodIssue): boolean {
  return code === 'unrecognized_keys' || path.length > 0
}

function issueFailure(place: ConfigPlace, issue: z.core.$ZodIssue): Failure {
  const where = issue.path.filter((step) => typeof step !== 'symbol')
  if (issue.code === 'unrecognized_keys') return unknownKey(place, where, issue.keys[0] ?? '')
  const shown = shownSteps(where)
  const node = nodeAt(place.document, where)
  if (issue.code === 'invalid_type' && !place.document.hasIn(where)) {
    const around = shownSteps(where.slice(0, -1))
    const missing = `${String(where.at(-1))} is missing here`
    return failureAt(
      place,
      node?.range?.[0] ?? 0,
      around === '' ? missing : `${around}: ${missing}`,
    )
  }
  const message =
    issue.code === 'invalid_value' ? wrongValue(issue.values, node) : plainMessage(issue)
  return failureAt(place, node?.range?.[0] ?? 0, shown === '' ? message : `${shown}: ${message}`)
}

const LABELS: ReadonlySet<string> = new Set(['vanilla', 'since', 'reaches'])

function plainMessage(issue: z.core.$ZodIssue): string {
  if (issue.code === 'invalid_type' && LABELS.has(String(issue.path.at(-1))))
    return 'the label of a release is text: put it in quotes, for a bare 4.10 is the number 4.1'
  return zodFault(issue)
}

function wrongValue(values: readonly unknown[], node: Node | undefined): string {
  const given = isScalar(node) ? String(node.value) : 'this'
  const allowed = values.map(String)
  const near = nearest(given, allowed)
  if (allowed.length === 1) return `${given} cannot stand here; ${allowed.join('')} is expected`
  return `${given} is not one of ${allowed.join(', ')}${near === undefined ? '' : `; did you mean ${near}?`}`
}

function unknownKey(place: ConfigPlace, where: readonly (string | number)[], key: string): Failure {
  const steps = where.filter((step) => typeof step === 'string')
  const level = (steps[0] === 'variants' ? ['variants', '*'] : steps).join(' ')
  const map = nodeAt(place.document, where)
  const pair = isMap(map)
    ? map.items.find((item) => isScalar(item.key) && String(item.key.value) === key)
    : undefined
  const at = isNode(pair?.key) ? (pair.key.range?.[0] ?? 0) : 0
  if (PLANNED[level]?.includes(key) === true) {
    return failureAt(
      place,
      at,
      `${key}: is not built yet; this version reads ${KNOWN[level]?.join(', ') ?? ''}`,
    )
  }
  const near = nearest(key, KNOWN[level] ?? [])
  const known = (KNOWN[level] ?? []).join(', ')
  return failureAt(
    place,
    at,
    `there is no key ${key} here`,
    near === undefined ? `known are ${known}` : `did you mean ${near}?`,
  )
}

function failureAt(place: ConfigPlace, offset: number, message: string, hint?: string): Failure {
  const { line, col } = place.lines.linePos(offset)
  const text = place.source.split(/\r\n|\r|\n/)[line - 1] ?? ''
  return new Failure('config/wrong', message, {
    exit: EXIT.wrongCall,
    path: place.path,
    line,
    column: col,
    text,
    ...(hint === undefined ? {} : { hint }),
  })
}
