import { keySegments } from '../../core/keys/key.ts'
import type { Question } from '../../core/grouping/questions.ts'
import type { Paint } from '../paint.ts'
import { conflictSentence, tiedSentence } from '../sentence.ts'
import { shownSheet } from '../sheet-view.ts'
import { count, oneLine, pad, widthOf, wrap } from '../text.ts'
import { fitted } from './fitted.ts'
import type { ScreenChoice } from './scope.ts'
import { answersOf } from './scope.ts'
import type { Preview, ScreenState } from './state.ts'
import { shownChoices } from './state.ts'

/** The question at hand: its key, what both sides did, the choices, its entry, its lines. */
export function detailOf(
  question: Question,
  state: ScreenState,
  paint: Paint,
  width: number,
  room: number,
): string[] {
  const { example, tied } = question
  const said =
    tied.length === 0 ? conflictSentence(example, paint) : tiedSentence([example, ...tied], paint)
  const head = [
    titleOf(question, state, paint, width),
    ...wrap(said, width, ''),
    ...earlierOf(question, width),
  ]
  const choices = choicesIn(shownChoices(state, question), question, state, paint, width)
  const sheet = sheetIn(state, paint, width)
  const lines = linesIn(state, paint, width)
  const left = room - head.length - choices.length
  const parts = [head, lines, sheet, choices].filter((part) => part.length > 0)
  const length = parts.reduce((sum, part) => sum + part.length, 0)
  if (length + parts.length - 1 <= room)
    return parts.flatMap((part, i) => (i === 0 ? part : ['', ...part]))
  if (length <= room) return parts.flat()
  // what is no choice gives way: first the entry, then the lines
  const shownLines = lines.slice(0, Math.max(0, left))
  const forSheet = Math.max(0, left - shownLines.length)
  const shownSheetLines =
    sheet.length <= forSheet || forSheet < 2
      ? sheet.slice(0, forSheet)
      : [...sheet.slice(0, forSheet - 1), paint.quiet('  … v shows the whole entry')]
  return [...head, ...shownLines, ...shownSheetLines, ...choices].slice(0, room)
}

function titleOf(question: Question, state: ScreenState, paint: Paint, width: number): string {
  const { example, conflicts, tied, paths } = question
  const rest = conflicts.length - 1 - tied.length
  const more = rest > 0 ? `, and ${rest} more` : ''
  const key = example.key === '' ? 'the whole file' : example.key
  const line = example.at.mine?.line ?? example.at.new?.line
  const whose = example.at.mine === null ? state.data.to : 'your file'
  const place = line === undefined ? (paths[0] ?? '') : `line ${line} of ${whose}`
  const room = width - widthOf(place) - 2
  return pad(paint.strong(oneLine(key + more, room)), room + 2) + place
}

function earlierOf({ example: { earlier } }: Question, width: number): string[] {
  if (earlier === undefined) return []
  const { take, value } = earlier
  return wrap(`For other values you answered: ${oneLine(value ?? take, 40)}`, width, '')
}

/** The lines in which the key stands, in mine and in new, one under the other. */
function linesIn({ detail, data }: ScreenState, paint: Paint, width: number): string[] {
  const { lines } = detail ?? { lines: { mine: undefined, new: undefined } }
  const name = Math.max(widthOf(data.variant), widthOf(data.to))
  return [
    { who: data.variant, line: lines.mine, colour: paint.mine },
    { who: data.to, line: lines.new, colour: paint.vanilla },
  ].flatMap(({ who, line, colour }) => {
    if (line === undefined) return []
    const head = `  ${pad(who, name)} ${String(line.line).padStart(6)}  `
    return [head + colour(oneLine(line.text.trim(), width - widthOf(head)))]
  })
}

function sheetIn({ detail, data }: ScreenState, paint: Paint, width: number): string[] {
  const { sheet } = detail ?? {}
  if (sheet === undefined) return []
  const heads = { old: data.from, new: data.to, mine: data.variant }
  return shownSheet(sheet, heads, paint, width + 5).map((line) => fitted(line.slice(5), width))
}

/** The choices by their numbers; two in a line where they fit. */
function choicesIn(
  choices: readonly ScreenChoice[],
  question: Question,
  state: ScreenState,
  paint: Paint,
  width: number,
): string[] {
  const half = Math.floor(width / 2)
  const values = choices.map((choice) => valueOf(choice, question))
  const wide = Math.min(12, Math.max(...values.map(widthOf)))
  const texts = choices.map((choice, i) => {
    const is = i === state.choice
    const text = `${is ? '>' : ' '} ${i + 1}  ${pad(values[i] ?? '', wide)}  ${choice.why}`
    return { text, shown: is ? paint.open(oneLine(text, width)) : oneLine(text, width) }
  })
  const isNarrow = texts.every(({ text }) => widthOf(text) < half)
  if (!isNarrow) return texts.map(({ shown }) => shown)
  const rows: string[] = []
  for (let i = 0; i < texts.length; i += 2)
    rows.push(pad(texts[i]?.shown ?? '', half) + (texts[i + 1]?.shown ?? ''))
  return rows
}

function valueOf({ take, value }: ScreenChoice, { example }: Question): string {
  if (take === 'value:') return '…'
  if (example.key === '')
    return value === null && take !== 'mine' && take !== 'vanilla'
      ? 'nothing'
      : take === 'mine'
        ? example.kind === 'gone-in-mine'
          ? 'no file'
          : 'your file'
        : example.kind === 'gone-in-vanilla'
          ? 'no file'
          : "vanilla's file"
  if (value === null) return 'nothing'
  return value === '' ? 'empty' : oneLine(value.replace(/\s*\n\s*/g, ' '), 26)
}

/** What an answer to all keys of a pattern would do: those that differ from the one at hand first. */
export function previewOf(
  { choice, conflicts }: Preview,
  { data }: ScreenState,
  paint: Paint,
  width: number,
  room: number,
): string[] {
  const [example] = conflicts
  if (example === undefined) return []
  const takes = new Map(
    answersOf(conflicts, choice).map(({ path, key, take }) => [`${path}\0${key}`, take]),
  )
  const isOutlier = (each: (typeof conflicts)[number]): boolean =>
    each.old !== example.old || each.new !== example.new || each.mine !== example.mine
  const outliers = conflicts.filter(isOutlier)
  const alike = conflicts.length - outliers.length
  const rows = [...outliers, ...conflicts.filter((each) => !isOutlier(each))].map((each) => {
    const take = takes.get(`${each.path}\0${each.key}`)
    const value =
      take === undefined
        ? 'stays open'
        : take === 'mine'
          ? (each.mine ?? 'nothing')
          : take === 'vanilla'
            ? (each.new ?? 'nothing')
            : take.replace(/^\w+:/, '')
    const last = keySegments(each.key).at(-1)?.name ?? ''
    const name = oneLine(each.key.slice(0, each.key.length - last.length).replace(/\/$/, ''), 30)
    const was = `${data.to} ${oneLine(each.new ?? 'nothing', 12)}, yours ${oneLine(each.mine ?? 'nothing', 12)}`
    return fitted(`    ${pad(name, 30)}  ${pad(was, 30)}  ${oneLine(value, 14)}`, width)
  })
  const head = `${count(conflicts.length, 'key')} would be closed: ${oneLine(choice.why, 40)}.`
  const differ =
    outliers.length === 0
      ? 'All have the same three values.'
      : `${count(outliers.length, 'key')} ${outliers.length === 1 ? 'differs' : 'differ'} from the one at hand, and ${outliers.length === 1 ? 'stands' : 'stand'} first; ${alike} ${alike === 1 ? 'is' : 'are'} like that one.`
  const shown = rows.slice(0, Math.max(0, room - 5))
  const rest = rows.length - shown.length
  return [
    '',
    paint.strong(fitted(head, width)),
    ...wrap(differ, width, '  '),
    ...shown,
    ...(rest > 0 ? [`    and ${rest} more`] : []),
  ]
}
