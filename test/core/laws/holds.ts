import type { CarriedText, CarryOptions } from '../../../src/core/carry/carry-text.ts'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { Triple } from '../../../src/core/document/sides.ts'
import { triple } from '../../../src/core/document/sides.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import type { Dice } from './lists.ts'
import { dice, WORDS } from './lists.ts'

/** An entry with parts of its own; its mark says which it is, in all documents and in the result. */
export interface Find {
  mark: string
  id: string | undefined
  fields: ReadonlyMap<string, string>
  kit: readonly string[]
}

/** The entries of a ship, by the hold in which they lie. */
export type Ship = ReadonlyMap<string, readonly Find[]>

export interface HoldStory {
  ships: Triple<Ship>
  /** What either side wrote that nobody else has. */
  written: readonly string[]
  /** Whether both touched an entry. */
  isShared: boolean
  /** Whether vanilla put the entries of each hold into an element more. */
  isWrapped: boolean
}

/** What is done with the entries of a hold as a file is written. */
export interface Form {
  isWrapped?: boolean
  isMapping?: boolean | undefined
}

/** What is tried: whether entries have ids, and what may happen to them. */
export interface HoldKind {
  name: string
  ids: 'all' | 'none' | 'some'
  /** How many different things lie about: with few, values stand twice. */
  things: number
  moves: boolean
  wraps: boolean
  /** Whether a hold is an object with a member of each entry, instead of a list: JSON alone. */
  isMapping?: boolean
}

export const HOLD_KINDS: readonly HoldKind[] = [
  { name: 'ids', ids: 'all', things: 10, moves: true, wraps: false },
  { name: 'ids and few things', ids: 'all', things: 3, moves: true, wraps: true },
  { name: 'no ids', ids: 'none', things: 10, moves: false, wraps: true },
  { name: 'no ids and few things', ids: 'none', things: 3, moves: true, wraps: false },
  { name: 'some ids', ids: 'some', things: 3, moves: true, wraps: false },
  { name: 'named members', ids: 'all', things: 3, moves: true, wraps: false, isMapping: true },
]

const FIELDS = ['worth', 'bed', 'depth', 'say', 'decay']

class Story {
  private readonly written: string[] = []
  private entries = 0

  constructor(
    private readonly roll: Dice,
    private readonly kind: HoldKind,
  ) {}

  make(): HoldStory {
    const { roll, kind } = this
    const holds = ['hold', 'deck', 'locker'].slice(0, 1 + roll(3))
    const old: Ship = new Map(holds.map((hold) => [hold, this.finds(roll(7))]))
    const mover = roll(2)
    const isWrapped = kind.wraps && roll(3) === 0
    const [fresh, mine] = ['v', 'm'].map((side, at) => this.changed(old, side, mover === at))
    if (fresh === undefined || mine === undefined) throw new Error('two sides')
    const isShared = [...fresh.touched].some((mark) => mine.touched.has(mark))
    return { ships: [old, fresh.ship, mine.ship], written: this.written, isShared, isWrapped }
  }

  private finds(count: number): Find[] {
    return Array.from({ length: count }, () => this.find(''))
  }

  private find(side: string): Find {
    const { roll, kind } = this
    const number = this.entries++
    const word = (): string => WORDS[roll(WORDS.length)] ?? ''
    const values = [`${roll(30)}`, WORDS[roll(3)] ?? '', `${roll(500)}`, `${word()} ${number}`, '0']
    const hasId = kind.ids === 'all' || (kind.ids === 'some' && roll(4) > 0)
    return {
      mark: `${side}mark${number}-${roll(100_000)}`,
      id: hasId ? `${word()}-${number}` : undefined,
      fields: new Map(FIELDS.map((name, i) => [name, values[i] ?? ''])),
      kit: Array.from({ length: roll(4) }, () => WORDS[roll(kind.things)] ?? ''),
    }
  }

  private word(side: string): string {
    const word = `${side}${this.written.length}word`
    this.written.push(word)
    return word
  }

  private changed(old: Ship, side: string, isMover: boolean): { ship: Ship; touched: Set<string> } {
    const { roll } = this
    const ship = new Map([...old].map(([hold, finds]) => [hold, [...finds]]))
    const touched = new Set<string>()
    for (let edit = roll(4); edit >= 0; edit--) {
      const holds = [...ship.values()]
      const finds = holds[roll(holds.length)] ?? []
      const at = roll(finds.length)
      const find = finds[at]
      const sort = roll(9)
      if (sort === 0 || find === undefined) {
        const added = this.find(side)
        const fields = new Map([...added.fields, ['say', this.word(side)]])
        finds.splice(roll(finds.length + 1), 0, { ...added, fields })
      } else if (touched.has(find.mark) || !find.mark.startsWith('mark')) continue
      else {
        touched.add(find.mark)
        const isMoved = sort === 1 && isMover && this.kind.moves
        if (sort <= 2) finds.splice(at, 1)
        if (isMoved) holds[roll(holds.length)]?.push(find)
        if (sort > 2) finds[at] = this.edited(find, side, sort)
      }
    }
    return { ship, touched }
  }

  private edited(find: Find, side: string, sort: number): Find {
    const { roll } = this
    const at = roll(find.kit.length + 1)
    const put = sort === 5 ? [] : [this.word(side)]
    if (sort <= 5) return { ...find, kit: find.kit.toSpliced(at, sort === 3 ? 0 : 1, ...put) }
    const name = sort === 6 ? `${side}field` : (FIELDS[roll(4)] ?? '')
    return { ...find, fields: new Map([...find.fields, [name, put[0] ?? '']]) }
  }
}

export function holdStory(seed: number, kind: HoldKind): HoldStory {
  return new Story(dice(seed), kind).make()
}

type Format = 'json' | 'xml'

/** A ship as a file. */
export function shipText(
  ship: Ship,
  format: Format,
  { isWrapped = false, isMapping = false }: Form = {},
): string {
  const holds = [...ship].map(([hold, finds]) => ({ hold, finds }))
  if (format === 'json') {
    const plain = holds.map(({ hold, finds }) => {
      const list = finds.map(({ mark, id, fields, kit }) => ({
        ...(isMapping ? {} : { id }),
        ...Object.fromEntries(fields),
        mark,
        kit,
      }))
      const named = finds.map(({ id = '' }, at) => [id, list[at]] as const)
      return [hold, isMapping ? Object.fromEntries(named) : isWrapped ? { entries: list } : list]
    })
    return `${JSON.stringify(Object.fromEntries(plain), null, 2)}\n`
  }
  const element = (name: string, text: string): string => `<${name}>${text}</${name}>\n`
  const find = ({ mark, id, fields, kit }: Find): string => {
    const parts = [...fields, ['mark', mark] as const, ...kit.map((each) => ['kit', each] as const)]
    const inside = parts.map(([name, text]) => `      ${element(name, text)}`).join('')
    return `    <find${id === undefined ? '' : ` id="${id}"`}>\n${inside}    </find>\n`
  }
  const all = holds.map(({ hold, finds }) => {
    const inside = finds.map(find).join('')
    return `  ${element(hold, `\n${isWrapped ? `    ${element('entries', `\n${inside}    `)}` : inside}  `)}`
  })
  return element('ship', `\n${all.join('')}`)
}

/** Carries three ships, each in its form, or what was made of one. */
export function carryShips(
  ships: Triple<Ship | string>,
  format: Format,
  forms: Triple<Form>,
  more: Partial<CarryOptions> = {},
): CarriedText {
  const texts = triple((side) => {
    const ship = ships[side]
    return typeof ship === 'string' ? ship : shipText(ship, format, forms[side])
  })
  return carryText(texts, { format: formatNamed(format), path: `ship.${format}`, ...more })
}

/** An entry, and where it lies. */
export interface Lying {
  hold: string
  find: Find
}

export function findIn(ship: Ship, mark: string): Lying | undefined {
  for (const [hold, finds] of ship) {
    const find = finds.find((each) => each.mark === mark)
    if (find !== undefined) return { hold, find }
  }
  return undefined
}
