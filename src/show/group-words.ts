import type { Group, GroupPart } from '../core/grouping/group.ts'
import type { FileKeyChange } from '../core/grouping/key-change.ts'
import type { MainValue } from '../core/grouping/main-values.ts'
import type { Law } from '../core/grouping/law.ts'
import { entryOf, keySegments, unquoteName } from '../core/keys/key.ts'
import { grouped, oneLine } from './text.ts'

/** So many examples of a row are named. */
const EXAMPLES = 3

/** What is said of keys that are in nothing. */
export const AT_THE_TOP = 'at the top'

/** What a group's keys are, as short as it can be read: `find worth`, `limits oxygen`. */
export function subject({ pattern }: Pick<GroupPart, 'pattern'>): string {
  const names = keySegments(pattern)
    .map(({ name, identity }) => (name === '' ? (identity === undefined ? '' : 'item') : name))
    .filter((name) => name !== '*' && name !== '')
  return names.length === 0 ? AT_THE_TOP : oneLine(names.join(' '), 46)
}

/** The main values of an entry that came or went, given as its source text. */
export type ValuesOf = (source: string, identity: string) => readonly MainValue[]

/** What became of the keys of one part, with examples. */
export function partWords(part: GroupPart, valuesOf: ValuesOf): string {
  const { changes, law, kind } = part
  const whom = counted(part)
  switch (kind) {
    case 'changed':
      if (changes.length === 1) return oneChange(changes[0], law)
      return law === undefined
        ? `${whom}, each differently: ${examples(changes, fromTo)}`
        : `${whom}, ${lawWords(law, changes)}: ${examples(changes, law.by === 'same' ? nameOnly : fromTo)}`
    case 'new-name':
    case 'added':
      return isEntry(part)
        ? counting(
            part,
            examples(changes, (change) => withValues(change, valuesOf), 4),
          )
        : nameWords(part, whom)
    case 'removed':
      return counting(
        part,
        examples(changes, (change) => withValues(change, valuesOf), 4),
      )
    case 'renamed':
      return examples(changes, ({ was = '', key }) => `${lastName(was)} is now ${lastName(key)}`)
    case 'moved':
      return examples(changes, nameOnly)
    case 'file-renamed':
      return examples(changes, ({ was = '', key }) => `${was} is now ${key}`)
    case 'file-added':
    case 'file-removed':
    case 'file-changed':
      return examples(changes, ({ key }) => key, 12)
  }
}

/** A group as one sentence: of several parts each in turn. */
export function groupWords({ parts, entries }: Group, valuesOf: ValuesOf): string {
  const [first] = parts
  if (first === undefined) return ''
  if (parts.length === 1) return partWords(first, valuesOf)
  const said = parts
    .map((part) => `${subject({ pattern: within(part) })} ${shortWords(part)}`)
    .join('; ')
  const names = entries.slice(0, EXAMPLES).map((entry) => lastName(entry))
  if (entries.length === 1) return `${names.join('')}: ${said}`
  const more = entries.length > EXAMPLES ? ` and ${entries.length - EXAMPLES} more` : ''
  return `${amount(entries.length, nounIn(first.pattern))}: ${said}; ${names.join(', ')}${more}`
}

/** The part's pattern from the entry on. */
function within({ pattern }: GroupPart): string {
  return pattern.slice(pattern.lastIndexOf(']') + 1).replace(/^\//, '')
}

function shortWords({ law, changes, kind }: GroupPart): string {
  const [first] = changes
  if (kind === 'removed') return 'gone'
  if (kind === 'added' || kind === 'new-name')
    return isSame(changes) ? `new, ${shown(first?.new ?? null)}` : 'new'
  if (changes.length === 1)
    return `from ${shown(first?.old ?? null)} to ${shown(first?.new ?? null)}`
  return law === undefined ? 'each differently' : lawWords(law, changes)
}

/** Whether whole entries came or went, or keys that belong to no entry. */
function isEntry({ pattern, now, changes }: GroupPart): boolean {
  return /(\]|\*)$/.test(pattern) || (now === undefined && !isInMany(changes))
}

/** Whether changes, sorted by their paths, are of several files. */
function isInMany(changes: readonly FileKeyChange[]): boolean {
  return changes[0]?.path !== changes.at(-1)?.path
}

function nameWords({ changes, now, kind }: GroupPart, whom: string): string {
  const verb = now?.have === 1 ? 'has' : 'have'
  const have = now === undefined ? '' : `${grouped(now.have)} of ${grouped(now.of)} ${verb} it now`
  const got =
    have === '' ? `${whom} got it` : kind === 'new-name' ? have : `${whom} got it; ${have}`
  const [first] = changes
  if (changes.length === 1)
    return `${got}: ${shown(first?.new ?? null)} on ${examples(changes, nameOnly)}`
  return `${got}: ${valueCounts(changes)}; ${examples(changes, nameOnly)}`
}

/** `35 percent on 80, 60 percent on 3`, the most frequent first. */
function valueCounts(changes: readonly FileKeyChange[]): string {
  const counts = new Map<string, number>()
  for (const { new: value } of changes)
    counts.set(shown(value), (counts.get(shown(value)) ?? 0) + 1)
  const sorted = [...counts].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))
  const said = sorted.slice(0, EXAMPLES).map(([value, count]) => `${value} on ${count}`)
  return said.join(', ') + (sorted.length > EXAMPLES ? ', and others' : '')
}

function oneChange(change: FileKeyChange | undefined, law: Law | undefined): string {
  if (change === undefined) return ''
  const from = `from ${shown(change.old)} to ${shown(change.new)}`
  const of = entryOf(change.key)
  const words =
    law === undefined || law.by === 'same' ? from : `${from}, ${lawWords(law, [change])}`
  return of === undefined ? words : `${lastName(of)} ${words}`
}

/** What a law says, in the units of the values. */
export function lawWords(law: Law, changes: readonly FileKeyChange[]): string {
  switch (law.by) {
    case 'same':
      return `from ${shown(changes[0]?.old ?? null)} to ${shown(changes[0]?.new ?? null)}`
    case 'plus':
      return law.plus.startsWith('-')
        ? `each less by ${law.plus.slice(1)}`
        : `each plus ${law.plus}`
    case 'times':
      return timesWords(law.numerator, law.denominator)
    case 'percent':
      return percentWords(law.percent)
  }
}

function timesWords(numerator: string, denominator: string): string {
  const known: Record<string, string> = {
    '2/1': 'each doubled',
    '1/2': 'each halved',
    '3/2': 'each half as much again',
    '1/1': 'each as it was',
  }
  const word = known[`${numerator}/${denominator}`]
  if (word !== undefined) return word
  if (denominator === '1') return `each times ${numerator}`
  if (numerator === '1') return `each divided by ${denominator}`
  const percent = (Number(numerator) * 100) / Number(denominator)
  return Number.isInteger(percent)
    ? percentWords(percent)
    : `each times ${numerator}/${denominator}`
}

function percentWords(percent: number): string {
  const change = percent - 100
  const word = change > 0 ? 'up' : 'down'
  const tenth =
    Math.abs(change) === 10
      ? 'a tenth'
      : Math.abs(change) === 25
        ? 'a quarter'
        : `${Math.abs(change)} percent`
  return `each ${word} by ${tenth}`
}

function isSame(changes: readonly FileKeyChange[]): boolean {
  return changes.every(({ new: value }) => value === changes[0]?.new)
}

/** `22 finds`: how many keys or entries of a pattern there are, by the name in it. */
function counted({ pattern, changes }: GroupPart): string {
  return amount(changes.length, nounIn(pattern))
}

function nounIn(pattern: string): string {
  const around = keySegments(pattern).findLast(({ identity }) => identity !== undefined)
  return around === undefined || around.name === '' ? 'key' : unquoteName(around.name)
}

/** `22 finds`, `3 boxes`; of a name that is no word `84 of e`. */
function amount(number: number, noun: string): string {
  if (!/^[a-z]{3,}$/i.test(noun)) return `${grouped(number)} of ${oneLine(noun, 24)}`
  return `${grouped(number)} ${number === 1 ? noun : pluralOf(noun)}`
}

/** The plural of an English word, as far as its end tells. */
function pluralOf(noun: string): string {
  if (/[^s]s$/i.test(noun)) return noun
  if (/(ss|x|z|ch|sh)$/i.test(noun)) return `${noun}es`
  return /[^aeiou]y$/i.test(noun) ? `${noun.slice(0, -1)}ies` : `${noun}s`
}

/** A list of entries behind how many there are, where they are several. */
function counting(part: GroupPart, listed: string): string {
  return part.changes.length === 1 ? listed : `${counted(part)}: ${listed}`
}

function examples(
  changes: readonly FileKeyChange[],
  word: (change: FileKeyChange, isMany: boolean) => string,
  most = EXAMPLES,
): string {
  const isMany = isInMany(changes)
  const said = changes
    .slice(0, most)
    .map((change) => word(change, isMany))
    .join(', ')
  return changes.length > most ? `${said} and ${changes.length - most} more` : said
}

/** The entry that a key is in; where each of many files is one, the name of the file. */
function nameOnly({ key, path }: FileKeyChange, isMany: boolean): string {
  const entry = entryOf(key)
  if (entry !== undefined) return lastName(entry)
  return isMany ? oneLine(path.slice(path.lastIndexOf('/') + 1), 40) : lastName(key)
}

function fromTo(change: FileKeyChange, isMany: boolean): string {
  return `${nameOnly(change, isMany)} ${shown(change.old)} to ${shown(change.new)}`
}

/** A key that came or went, with its value where that is short, or with the main ones of an entry. */
function withValues({ key, old, new: fresh }: FileKeyChange, valuesOf: ValuesOf): string {
  const name = lastName(key)
  const source = fresh ?? old ?? ''
  const inside = valuesOf(source, name).map(
    (each) => `${oneLine(each.name, 20)} ${shown(each.value)}`,
  )
  if (inside.length > 0) return `${name} (${inside.join(', ')})`
  const isShort = source.length <= 40 && !/[\n<{[]/.test(source)
  return isShort && source !== name && source !== '' ? `${name} (${shown(source)})` : name
}

/** The identity that a key ends in, without brackets and quotes; else its last name. */
export function lastName(key: string): string {
  const last = keySegments(key).at(-1)
  const text = last?.identity ?? last?.name.replace(/~[0-9]+$/, '') ?? key
  return oneLine(unquoteName(text), 40)
}

export function shown(value: string | null): string {
  if (value === null) return 'nothing'
  return value === '' ? 'empty' : oneLine(value.replace(/\s*\n\s*/g, ' '), 32)
}
