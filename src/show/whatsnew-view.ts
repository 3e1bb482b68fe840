import type { Group, GroupKind } from '../core/grouping/group.ts'
import type { MainValue } from '../core/grouping/main-values.ts'
import { gather } from '../core/document/gather.ts'
import { mainValues } from '../core/grouping/main-values.ts'
import { formatNamed } from '../core/formats/index.ts'
import type { VariantTouch, WhatsNew } from '../core/facts/whats-new.ts'
import { AT_THE_TOP, groupWords, subject } from './group-words.ts'
import { showNext } from './next.ts'
import type { Paint } from './paint.ts'
import { showProblem } from './problem-view.ts'
import { clip, count, grouped, MOST_WIDTH, oneLine, pad, widthOf, wrap } from './text.ts'
import { showTouch } from './touch-view.ts'

/** Of each section so many rows are shown, unless all are asked for. */
const MOST_ROWS = 10
/** Of an entry that came so many of its values are told. */
const MAIN_VALUES = 2
/** Columns for what a row is about. */
const LABEL = 18

const SECTIONS: readonly [title: string, kinds: readonly GroupKind[]][] = [
  ['A new way of saying something', ['new-name']],
  ['Retuned', ['changed']],
  ['Came', ['added', 'file-added']],
  ['Went', ['removed', 'file-removed']],
  ['Has another name', ['renamed', 'file-renamed']],
  ['Stands elsewhere', ['moved']],
  ['Files that have no keys to compare', ['file-changed']],
]

export interface WhatsNewView {
  from: string
  to: string
  news: WhatsNew
  /** What of it touches a variant's edits. */
  touch: VariantTouch | undefined
  next: readonly string[]
  all: boolean
}

/** What an update changed, the most telling first. */
export function showWhatsNew(view: WhatsNewView, paint: Paint, width: number): string {
  const { news, touch } = view
  const lines = [
    ...wrap(headline(view), width, '').map((line) => paint.strong(line)),
    ...(touch === undefined ? [] : showTouch(touch, paint, width)),
    ...SECTIONS.flatMap(([title, kinds]) => section(title, kinds, view, paint, width)),
    ...comments(view, paint, width),
    ...unread(news, paint, width),
    ...showNext(view.next, width),
  ]
  return `${lines.join('\n')}\n`
}

function headline({ from, to, news }: WhatsNewView): string {
  const { files, counts } = news
  if (files.changed === 0)
    return `From ${from} to ${to} nothing changed in ${count(files.all, 'file')}`
  const said = [
    [counts.changed, 'changed'],
    [counts.added, 'came'],
    [counts.removed, 'went'],
    [counts.renamed, 'renamed'],
    [counts.moved, 'moved'],
  ] as const
  const keys = said
    .filter(([number]) => number > 0)
    .map(([number, what]) => `${grouped(number)} ${what}`)
  const files2 = `${grouped(files.changed)} of ${count(files.all, 'file')}`
  return `From ${from} to ${to}: ${files2}${keys.length === 0 ? '' : ` · ${keys.join(' · ')}`}`
}

function section(
  title: string,
  kinds: readonly GroupKind[],
  { news, all }: WhatsNewView,
  paint: Paint,
  width: number,
): string[] {
  const groups = news.groups.filter(({ kind }) => kinds.includes(kind))
  if (groups.length === 0) return []
  const rows = all ? groups : groups.slice(0, MOST_ROWS)
  const lines = [
    '',
    `  ${paint.vanilla(title)}`,
    ...rows.flatMap((group, i) => row(group, news, isSaid(rows, i), paint, width)),
  ]
  const rest = groups.slice(rows.length)
  if (rest.length > 0) {
    const keys = rest.reduce((sum, group) => sum + group.count, 0)
    lines.push(
      `    and ${count(rest.length, 'more row')} over ${count(keys, 'key')}; --all shows them`,
    )
  }
  return lines
}

/** Whether a row is about the top of a file and one before says so already. */
function isSaid(rows: readonly Group[], at: number): boolean {
  const isAtTop = (group: Group | undefined): boolean =>
    group !== undefined && group.path !== '' && subject(group) === AT_THE_TOP
  return isAtTop(rows[at]) && rows.slice(0, at).some(isAtTop)
}

/** What it is, what became of it and in which file: on one line where that fits, else under each other. */
function row(
  group: Group,
  { formats }: WhatsNew,
  isLabelSaid: boolean,
  paint: Paint,
  width: number,
): string[] {
  const format = formats.get(group.parts[0]?.changes[0]?.path ?? '')
  const valuesOf = (source: string, identity: string): MainValue[] =>
    format === undefined ? [] : mainValues(formatNamed(format), source, identity, MAIN_VALUES)
  if (group.path === '') return wrap(groupWords(group, valuesOf), width, '    ')
  const words = groupWords(group, valuesOf)
  // in a wider window the path would stand too far from what it is about
  const right = Math.min(width, MOST_WIDTH)
  const label = isLabelSaid ? '' : subject(group)
  const short = `    ${pad(label, LABEL)}  ${words}`
  const place =
    group.files > 1
      ? `${count(group.files, 'file')}, ${oneLine(group.path, 200)}`
      : oneLine(group.path, 200)
  if (label.length <= LABEL && widthOf(short) + 2 + place.length <= right)
    return [`${pad(short, right - place.length)}${paint.quiet(place)}`]
  const what = clip(label, right - 8)
  const where = clip(place, Math.max(12, right - 5 - what.length))
  const head = `    ${pad(what, right - 4 - where.length)}${paint.quiet(where)}`
  return [head, ...wrap(words, width, '      ')]
}

/** Changed comments: they are often the only documentation of an update. Those that say the same are one row. */
function comments({ news, all }: WhatsNewView, paint: Paint, width: number): string[] {
  if (news.comments.length === 0) return []
  const alike = new Map<string, (typeof news.comments)[number][]>()
  for (const each of news.comments) gather(alike, JSON.stringify([each.old, each.new]), each)
  const rows = [...alike.values()].sort((a, b) => b.length - a.length)
  const shown = all ? rows : rows.slice(0, MOST_ROWS)
  const lines = shown.flatMap((same) => {
    const [first] = same
    if (first === undefined) return []
    const { path, line, old, new: fresh } = first
    const said = fresh === null ? `gone: "${oneLine(old ?? '', 120)}"` : `"${oneLine(fresh, 160)}"`
    const number = same.length === 1 ? '' : `${count(same.length, 'comment')}: `
    const more = same.length === 1 ? '' : ` and ${grouped(same.length - 1)} more`
    return wrap(`${number}${said}  ${path}:${line}${more}`, width, '    ')
  })
  if (rows.length > shown.length)
    lines.push(`    and ${count(rows.length - shown.length, 'more comment')}; --all shows them`)
  return ['', `  ${paint.vanilla('Told otherwise in comments')}`, ...lines]
}

function unread({ problems }: WhatsNew, paint: Paint, width: number): string[] {
  if (problems.length === 0) return []
  return [
    '',
    paint.open('  Could not be read:'),
    ...problems.flatMap((each) => ['', ...showProblem(each, paint, width)]),
  ]
}
