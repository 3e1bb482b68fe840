import type { Decision } from '../../../src/core/plan/decide.ts'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { CarriedText } from '../../../src/core/carry/carry-text.ts'
import type { Triple } from '../../../src/core/document/sides.ts'
import { triple } from '../../../src/core/document/sides.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { FORMAT_NAMES, formatNamed } from '../../../src/core/formats/index.ts'

/** A value that stands alone, or the fields of an entry. */
export type Content = string | readonly (readonly [name: string, value: string])[]

/** An entry of a list; its number says which it is in all three documents, whatever they hold. */
export interface Cell {
  number: number
  content: Content
}

export type List = readonly Cell[]

/** What both sides made of a list, and what has to come of that. */
export interface ListStory {
  family: string
  old: List
  fresh: List
  mine: List
  /** What the result holds; of an entry that both changed mine's. */
  expected: List
  /** Both changed, or one changed and the other dropped, one entry. */
  mustAsk: boolean
  /** Whether no value stands twice, so that the documents tell which entry is which. */
  isDistinct: boolean
  /** Every entry is another, and the sides touched different ones: then there is nothing to ask. */
  mayNotAsk: boolean
  /** What either side wrote that nobody else has. */
  marks: readonly string[]
  /** The side that put entries elsewhere, if one did: the order is as it has them. */
  mover: 'v' | 'm' | undefined
}

/** A random number below `n`: mulberry32, so that a seed is a story. */
export type Dice = (n: number) => number

export function dice(seed: number): Dice {
  let state = seed >>> 0
  return (n) => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return Math.floor((((t ^ (t >>> 14)) >>> 0) / 4294967296) * n)
  }
}

export const WORDS = ['rope', 'tar', 'lamp', 'net', 'hook', 'buoy', 'kelp', 'winch', 'silt', 'reef']
const word = (at: number): string => `${WORDS[at % WORDS.length] ?? ''}${at < 10 ? '' : `-${at}`}`

export interface Family {
  name: string
  content: (at: number, roll: Dice) => Content
  isPlain?: boolean
  /** Whether values may stand twice, so that the documents may not tell which entry is which. */
  repeats?: boolean
  /** Whether entries may share a name, so that what stands for an open question changes what tells them apart. */
  shares?: boolean
  /** Whether a side may put a copy of an entry beside it, under an id of its own. */
  copies?: boolean
  /** Whether one side may put an entry elsewhere. */
  moves?: boolean
  /** Whether one side numbers all entries anew, by their first field; of two or three entries nothing tells that it did. */
  numbers?: boolean
  /** The formats that can hold it; all by default. */
  formats?: readonly FormatName[]
}

/** A name that is an entry's own, or one that several have. */
const twin = (at: number, roll: Dice): string => (roll(5) === 0 ? 'twin' : word(at))

const fields = (...pairs: [string, string][]): Content => pairs
/** What most entries have in common. */
const defaults: [string, string][] = [
  ['stack', '1'],
  ['decay', '0'],
  ['hidden', 'no'],
]

const place: Family['content'] = (_, roll) =>
  fields(['sort', word(roll(2))], ['x', `${roll(9000)}.5`], ['y', `${roll(9000)}.25`], ['r', '80'])

export const FAMILIES: readonly Family[] = [
  { name: 'words', content: word, isPlain: true },
  {
    name: 'repeated words',
    content: (_, roll) => word(roll(3)),
    isPlain: true,
    repeats: true,
  },
  {
    name: 'ids',
    content: (at, roll) => fields(['id', word(at)], ['worth', `${roll(40)}`], ...defaults),
  },
  {
    name: 'ids that some lack',
    content: (at, roll) =>
      roll(4) === 0
        ? fields(['pattern', `p-${at}`], ['worth', `${roll(40)}`], ...defaults)
        : fields(['id', word(at)], ['worth', `${roll(40)}`], ...defaults),
  },
  {
    name: 'ids that only count',
    content: (at, roll) =>
      fields(['id', `${at}`], ['label', `The ${word(at)}`], ['x', `${roll(9000)}`], ...defaults),
  },
  {
    name: 'numbers given anew beside names',
    content: (at, roll) =>
      fields(['id', `${at}`], ['name', `The ${word(at)}`], ['x', `${roll(9000)}`], ...defaults),
    numbers: true,
  },
  {
    name: 'numbers given anew',
    content: (at, roll) => fields(['id', `${at}`], ['x', `${roll(9000)}`], ['y', `${roll(9000)}`]),
    numbers: true,
    shares: true,
  },
  {
    name: 'labels',
    content: (at, roll) =>
      fields(['label', `the-${word(at)}`], ['worth', `${roll(40)}`], ...defaults),
  },
  {
    name: 'ids of which some stand twice',
    content: (at, roll) =>
      fields(['id', twin(at, roll)], ['worth', `${roll(40)}`], ['bed', `the ${word(at)} bed`]),
    repeats: true,
    shares: true,
  },
  {
    name: 'labels of which some stand twice',
    content: (at, roll) =>
      fields(['label', twin(at, roll)], ['bed', `the ${word(at)} bed`], ...defaults),
    repeats: true,
    shares: true,
  },
  {
    name: 'places',
    content: place,
  },
  {
    name: 'few values',
    content: (_, roll) => fields(['sort', word(roll(3))], ['worth', `${roll(4)}`]),
    repeats: true,
  },
  {
    name: 'ids, with copies under an own id',
    content: (at, roll) =>
      fields(['id', `e${at}`], ['name', `The ${word(at)}`], ['x', `${roll(9000)}`], ...defaults),
    copies: true,
  },
  {
    name: 'ids further down, with copies under an own id',
    content: (at, roll) =>
      fields(['about/id', `e${at}`], ['label', `The ${word(at)}`], ['x', `${roll(9000)}`]),
    copies: true,
    formats: ['json', 'xml'],
  },
  { name: 'one value', content: (at, roll) => fields([word(roll(2)), `${at}`]) },
  {
    name: 'empty entries',
    content: (at, roll) => (roll(2) === 0 ? fields() : fields(['size', `${at}`])),
    repeats: true,
    formats: ['json', 'xml'],
  },
  {
    name: 'ids, where one side moves entries',
    content: (at, roll) =>
      fields(['id', word(at)], ['worth', `${roll(40)}`], ['x', `${roll(9000)}`], ...defaults),
    moves: true,
  },
  {
    name: 'places, where one side moves entries',
    content: place,
    moves: true,
  },
  {
    name: 'tuples that grow',
    content: (at, roll) =>
      fields(['0', word(roll(3))], ['1', word(at + 10)], ['2', `${roll(9000)}`], ['3', 'deep']),
    formats: ['json'],
  },
]

/** How much is done to a list. */
export interface Extent {
  least: number
  most: number
  edits: number
}

export function listStory(seed: number, family: Family, { least, most, edits }: Extent): ListStory {
  const roll = dice(seed)
  const length = least + roll(most - least + 1) + (family.numbers === true ? 2 : 0)
  const old: Cell[] = Array.from({ length }, (_, number) => ({
    number,
    content: family.content(number, roll),
  }))
  const marks: string[] = []
  const mover = family.moves === true ? (['v', 'm'] as const)[roll(2)] : undefined
  const sides = ['v', 'm'].map((side) =>
    changed(old, { side, family, edits, marks, isMover: side === mover }, roll),
  )
  const numberer = family.numbers === true ? roll(2) : undefined
  const [fresh, mine] = sides.map(({ list }, side) => (side === numberer ? numbered(list) : list))
  if (fresh === undefined || mine === undefined) throw new Error('two sides')
  const both = [...(sides[0]?.touched ?? [])].filter((number) => sides[1]?.touched.has(number))
  const { expected, mustAsk } = merged(old, fresh, mine)
  // of two or three entries nothing tells what is rare, so that one that was moved and changed may be another
  const isTold = family.numbers !== true && (mover === undefined || length > 3)
  const isDistinct = family.repeats !== true && isTold
  return {
    family: family.name,
    old,
    fresh,
    mine,
    expected,
    mustAsk,
    isDistinct,
    // whether a side numbered entries anew is not always told
    mayNotAsk: both.length === 0 && family.repeats !== true && family.numbers !== true,
    marks,
    mover,
  }
}

interface Changing {
  side: string
  family: Family
  edits: number
  marks: string[]
  isMover: boolean
}

function changed(
  old: List,
  { side, family, edits, marks, isMover }: Changing,
  roll: Dice,
): { list: Cell[]; touched: Set<number> } {
  const list = [...old]
  const touched = new Set<number>()
  const count = 1 + roll(edits)
  for (let edit = 0; edit < count; edit++) {
    const mark = `${side}${edit}mark`
    const sort = roll(6)
    const at = roll(list.length + (sort === 0 ? 1 : 0))
    const cell = list[at]
    if (family.copies === true && sort === 5 && cell !== undefined) {
      const number = (side === 'v' ? 1000 : 2000) + edit
      list.splice(at + 1, 0, { number, content: copied(cell.content, mark) })
      marks.push(mark)
    } else if (isMover && sort === 5 && cell !== undefined) {
      // where nothing names an entry, one that the other side changed is not known again when it was moved
      touched.add(cell.number)
      list.splice(at, 1)
      list.splice(roll(list.length + 1), 0, cell)
    } else if (sort === 0 || cell === undefined) {
      // an entry of its own, as the family has them
      const number = (side === 'v' ? 1000 : 2000) + edit
      list.splice(at, 0, { number, content: own(family, mark, number, roll) })
      marks.push(mark)
    } else if (touched.has(cell.number) || cell.number >= 1000) continue
    // of two that are equal the documents cannot tell which one a side dropped
    else if (sort === 1 && isTwice(old, cell)) continue
    else if (sort === 1) {
      touched.add(cell.number)
      list.splice(at, 1)
    } else {
      touched.add(cell.number)
      list[at] = { ...cell, content: edited(cell.content, mark, roll, family) }
      marks.push(mark)
    }
  }
  return { list, touched }
}

/** The same under another id. */
function copied(content: Content, mark: string): Content {
  if (typeof content === 'string') return mark
  return content.map(([name, value], i) => [name, i === 0 ? mark : value] as const)
}

function isTwice(list: List, { content }: Cell): boolean {
  return list.filter((each) => textOf(each.content) === textOf(content)).length > 1
}

function own(family: Family, mark: string, number: number, roll: Dice): Content {
  const content = family.content(number, roll)
  if (typeof content === 'string') return mark
  if (content.length === 0) return fields(['size', mark])
  const at = family.numbers === true ? 1 : 0
  return content.map(([name, value], i) => [name, i === at ? mark : value] as const)
}

/** With each entry's first field as its place in the list. */
function numbered(list: List): Cell[] {
  return list.map((cell, at) => {
    const { content } = cell
    if (typeof content === 'string') return cell
    return {
      ...cell,
      content: content.map(([name, value], i) => [name, i === 0 ? `${at}` : value]),
    }
  })
}

/** Another value, of what does not name the entry. */
function edited(content: Content, mark: string, roll: Dice, { numbers }: Family): Content {
  if (typeof content === 'string') return mark
  if (content.length === 0) return fields(['size', mark])
  if (isTuple(content) && roll(3) === 0) return [...content, [`${content.length}`, mark]]
  if (numbers === true && roll(2) === 0) return [...content, ['note', mark]]
  // beside a number the name is all that tells
  const first = numbers === true && content[1]?.[0] === 'name' ? 2 : 1
  const at = content.length === 1 ? 0 : first + roll(content.length - first)
  return content.map(([name, value], i) => [name, i === at ? mark : value] as const)
}

/** Whether values are told by where they stand. */
const isTuple = (content: Content): boolean => content[0]?.[0] === '0'

const textOf = (content: Content): string => JSON.stringify(content)

/** The three-way merge of lists whose entries are known: no side moves any. */
function merged(old: List, fresh: List, mine: List): { expected: Cell[]; mustAsk: boolean } {
  const expected: Cell[] = []
  let mustAsk = false
  const byNumber = (list: List): Map<number, Cell> =>
    new Map(list.map((cell) => [cell.number, cell]))
  const [inNew, inMine] = [byNumber(fresh), byNumber(mine)]
  const ownBehind = (list: List, number: number): Cell[] => {
    const at = number < 0 ? -1 : list.findIndex((cell) => cell.number === number)
    const own: Cell[] = []
    for (const cell of list.slice(at + 1)) {
      if (cell.number < 1000) break
      own.push(cell)
    }
    return own
  }
  const put = (number: number): void => {
    for (const [list, all] of [
      [fresh, inNew],
      [mine, inMine],
    ] as const)
      if (number < 0 || all.has(number)) expected.push(...ownBehind(list, number))
  }
  // what a side put behind an entry that it dropped stands behind the nearest that it has, in its own order
  put(-1)
  for (const cell of old) {
    const [theirs, own] = [inNew.get(cell.number), inMine.get(cell.number)]
    const same = (other: Cell | undefined): boolean =>
      other !== undefined && textOf(other.content) === textOf(cell.content)
    if (theirs === undefined || own === undefined) {
      const left = theirs ?? own
      if (left !== undefined && !same(left)) {
        mustAsk = true
        if (own !== undefined) expected.push(own)
      }
    } else {
      const { content, isOpen } = mergedContent(cell.content, theirs.content, own.content)
      if (isOpen) mustAsk = true
      expected.push({ number: cell.number, content })
    }
    put(cell.number)
  }
  return { expected, mustAsk }
}

function mergedContent(
  old: Content,
  fresh: Content,
  mine: Content,
): { content: Content; isOpen: boolean } {
  if (textOf(fresh) === textOf(mine) || textOf(fresh) === textOf(old))
    return { content: mine, isOpen: false }
  if (textOf(mine) === textOf(old)) return { content: fresh, isOpen: false }
  const isFields = typeof old !== 'string' && typeof fresh !== 'string' && typeof mine !== 'string'
  if (!isFields || old.length === 0) return { content: mine, isOpen: true }
  // half of what one side wrote is nobody's value, unless one side alone made it longer
  if (isTuple(old) && fresh.length > old.length === mine.length > old.length)
    return { content: mine, isOpen: true }
  let isOpen = false
  const content = mine.map(([name, value], i): [string, string] => {
    const [before, theirs] = [old[i]?.[1] ?? '', fresh[i]?.[1] ?? '']
    if (value === before) return [name, theirs]
    if (theirs !== before && theirs !== value) isOpen = true
    return [name, value]
  })
  return { content: [...content, ...fresh.slice(mine.length)], isOpen }
}

export function canHold(format: FormatName, { formats }: Family): boolean {
  return formats?.includes(format) ?? true
}

/** Each family in each format that can hold it. */
export const LISTS = FORMAT_NAMES.flatMap((format) =>
  FAMILIES.filter((family) => canHold(format, family)).map((family) => ({ format, family })),
)

/** Carries three lists, or what was made of one. */
export function carryList(
  lists: Triple<List | string>,
  format: FormatName,
  decisions: readonly Decision[] = [],
): CarriedText {
  const texts = triple((side) => {
    const list = lists[side]
    return typeof list === 'string' ? list : written(list, format)
  })
  return carryText(texts, { format: formatNamed(format), path: `hold.${format}`, decisions })
}

type Field = readonly [name: string, value: string]

/** What stands in an object; under a path, in one further down. */
function member([name, value]: Field): string {
  const [first = '', inside] = name.split('/')
  const text = JSON.stringify(value)
  return inside === undefined ? `"${first}": ${text}` : `"${first}": {"${inside}": ${text}}`
}

const element = (attributes: string, inside: string): string =>
  inside === '' ? `<item${attributes}/>` : `<item${attributes}>${inside}</item>`

const attribute = ([name, value]: Field): string =>
  name.includes('/') ? '' : ` ${name}="${value}"`

function child([name, value]: Field): string {
  const [first = '', inside] = name.split('/')
  return inside === undefined ? '' : `<${first} ${inside}="${value}"/>`
}

/** A list as a file of a format: of INI plain values are keys, and entries sections of one name. */
export function written(list: List, format: FormatName): string {
  const of = {
    json: (content: Content): string =>
      typeof content === 'string'
        ? JSON.stringify(content)
        : isTuple(content)
          ? `[${content.map(([, value]) => (/^[0-9]+$/.test(value) ? value : JSON.stringify(value))).join(', ')}]`
          : `{${content.map(member).join(', ')}}`,
    xml: (content: Content): string =>
      typeof content === 'string'
        ? `<item>${content}</item>`
        : element(content.map(attribute).join(''), content.map(child).join('')),
    ini: (content: Content): string =>
      typeof content === 'string'
        ? `Item=${content}`
        : `[Item]\n${content.map(([name, value]) => `${name}=${value}\n`).join('')}`,
  }[format]
  const lines = list.map(({ content }) => of(content))
  if (format === 'json') return `{"hold": [${lines.map((line) => `\n  ${line}`).join(',')}\n]}\n`
  if (format === 'xml') return `<hold>${lines.map((line) => `\n  ${line}`).join('')}\n</hold>\n`
  return `[Hold]\n${lines.map((line) => `${line}\n`).join('')}`
}
