import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { CarriedText } from '../../../src/core/carry/carry-text.ts'
import type { Triple } from '../../../src/core/document/sides.ts'
import { triple } from '../../../src/core/document/sides.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

/** An entry of one document: live, or dormant in a comment. */
export interface Entry {
  isLive: boolean
  value: number
}

/** The entries of one document by their number; undefined for one that is not there. */
export type Entries = readonly (Entry | undefined)[]

/** How entries are written, live and dormant, and how they are found again. */
export interface Notation {
  name: string
  format: FormatName
  write(entries: Entries, about: readonly string[]): string
  /** All entries of a text in their order. */
  read(text: string): { number: number; entry: Entry }[]
}

const named = (number: number): string => `tide_${String.fromCharCode(97 + number)}`

/** The entries that are there, each written, with the words above it. */
function lines(
  entries: Entries,
  about: readonly string[],
  write: (number: number, entry: Entry) => string,
): string[] {
  return entries.flatMap((entry, number) =>
    entry === undefined ? [] : [`${about[number] ?? ''}${write(number, entry)}`],
  )
}

function found(text: string, pattern: RegExp): { number: number; entry: Entry }[] {
  return [...text.matchAll(pattern)].map(([, mark = '', letter = '', value]) => ({
    number: letter.charCodeAt(0) - 97,
    entry: { isLive: mark === '', value: Number(value) },
  }))
}

export const NOTATIONS: readonly Notation[] = [
  {
    name: 'properties',
    format: 'ini',
    write: (entries, about) =>
      `[sea]\nsalt = 3\n${lines(entries, about, (n, { isLive, value }) => `${isLive ? '' : '#'}${named(n)} = ${value}\n`).join('')}`,
    read: (text) => found(text, /^(#?)tide_(.) = (\d+)$/gm),
  },
  {
    name: 'sections',
    format: 'ini',
    write: (entries, about) =>
      `[sea]\nsalt = 3\n\n${lines(entries, about, (n, { isLive, value }) => {
        const mark = isLive ? '' : ';'
        return `${mark}[${named(n)}]\n${mark}rise = ${value}\n${mark}kind = slow\n\n`
      }).join('')}[shore]\nsand = 1\n`,
    read: (text) => found(text, /^(;?)\[tide_(.)\]\n;?rise = (\d+)$/gm),
  },
  {
    name: 'elements',
    format: 'xml',
    write: (entries, about) => {
      const fixed = ['calm', 'ebb', 'flood'].map((id) => `  <tide id="${id}" rise="1"/>\n`)
      const own = lines(
        entries,
        about.map((words) => words.replace(/#(.*)\n/g, '<!--$1 -->\n  ')),
        (n, { isLive, value }) => {
          const element = `<tide id="${named(n)}" rise="${value}"/>`
          return `  ${isLive ? element : `<!-- ${element} -->`}\n`
        },
      )
      return `<tides>\n${fixed.join('')}${own.join('')}</tides>\n`
    },
    read: (text) => found(text, /(<!-- )?<tide id="tide_(.)" rise="(\d+)"/g),
  },
  {
    name: 'members',
    format: 'json',
    write: (entries, about) => {
      const own = lines(
        entries,
        about.map((words) => words.replace(/#/g, '//')),
        (n, { isLive, value }) => `  ${isLive ? '' : '// '}"${named(n)}": ${value},\n`,
      )
      return `{\n  // the tides\n${own.join('')}  "salt": 3\n}\n`
    },
    read: (text) => found(text, /(\/\/ )?"tide_(.)": (\d+)/g),
  },
]

export type DormantStory = Triple<Entries>

export function carryDormant(
  notation: Notation,
  story: DormantStory,
  about: readonly string[],
): CarriedText & { texts: Triple<string> } {
  const texts = triple((side) => notation.write(story[side], about))
  return { ...carryDormantTexts(notation, texts), texts }
}

export function carryDormantTexts({ format, name }: Notation, texts: Triple<string>): CarriedText {
  return carryText(texts, { format: formatNamed(format), path: `${name}.${format}` })
}

/** What is live of an entry in the result: the value, or nothing; and whether it is asked. */
export function expectedLive(
  story: DormantStory,
  number: number,
): { live: number | undefined; isAsked: boolean } {
  const [old, fresh, mine] = story.map((entries) => {
    const entry = entries[number]
    return entry?.isLive === true ? entry.value : undefined
  })
  if (fresh === mine || fresh === old) return { live: mine, isAsked: false }
  return mine === old ? { live: fresh, isAsked: false } : { live: mine, isAsked: true }
}
