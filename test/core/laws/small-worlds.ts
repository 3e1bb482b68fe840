import type { CarryOptions } from '../../../src/core/carry/carry-text.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { dice } from './lists.ts'
import type { Dice } from './lists.ts'

/**
 * A small world: a few words, and the document that a row of them is. Rows of few words meet in every way that
 * there is: values that repeat, entries that share a name or have none, comments between them, and things that moved.
 */
export interface World {
  name: string
  format: FormatName
  words: readonly string[]
  /** How many words old has at most. */
  most: number
  write: (row: Row) => string
  /** Words of which a row has one at most: of two comments of the same words nothing tells which is which. */
  once?: readonly string[]
  options?: Partial<CarryOptions>
}

export type Row = readonly string[]

const lines = (row: Row, write: (word: string) => string): string => row.map(write).join('')
const at = (word: string, index: number): string => word[index] ?? ''

/** An XML list of one element for each word. */
const xmlList =
  (element: (word: string) => string) =>
  (row: Row): string =>
    `<dive>\n  <hold>\n${lines(row, (word) => `    ${element(word)}\n`)}  </hold>\n  <crew>3</crew>\n</dive>\n`

/** A JSON list of one item for each word, one to a line. */
const jsonList =
  (item: (word: string) => string) =>
  (row: Row): string =>
    `{\n  "hold": [${row.map((word) => `\n    ${item(word)}`).join(',')}\n  ],\n  "crew": 3\n}\n`

/** Where entries that moved may stand: what is behind a `|` stands in the second of two containers. */
function inTwo(row: Row): [first: string[], second: string[]] {
  const cut = row.indexOf('|')
  const of = (words: Row): string[] => words.filter((word) => word !== '|')
  return cut < 0 ? [of(row), []] : [of(row.slice(0, cut)), of(row.slice(cut))]
}

const LETTERS = ['a', 'b', 'c']
const VALUES: Record<string, string> = { 1: 'cod', 2: 'eel', 3: 'ray' }

/** An entry that is known by what it holds. */
const telling = (word: string): [string, string][] => [
  ['bed', `the ${at(word, 0)} bed`],
  ['worth', `${word.charCodeAt(0) * 7}`],
  ['depth', `${word.charCodeAt(0) * 13}.5`],
  ['sort', VALUES[at(word, 1)] ?? ''],
]
const fieldsOf = (word: string): string =>
  telling(word)
    .map(([name, value]) => `"${name}": "${value}"`)
    .join(', ')
const elementsOf = (word: string): string =>
  telling(word)
    .map(([name, value]) => `<${name}>${value}</${name}>`)
    .join('')

const SOME_NAMELESS = ['a1', 'a2', 'b1', 'b2', '_1', '_2']
const MOVING = ['a1', 'a2', 'b1', 'c1', '|']

const PLAIN: readonly World[] = [
  {
    name: 'repeated elements',
    format: 'xml',
    words: LETTERS,
    most: 5,
    write: xmlList((word) => `<find>${word}</find>`),
  },
  {
    name: 'elements of one attribute',
    format: 'xml',
    words: LETTERS,
    most: 4,
    write: xmlList((word) => `<find worth="${word}" tide="low"/>`),
  },
  {
    name: 'repeated keys',
    format: 'ini',
    words: LETTERS,
    most: 5,
    write: (row) => `[hold]\nlamp=1\n${lines(row, (word) => `Find=${word}\n`)}`,
  },
  {
    name: 'repeated keys of entries',
    format: 'ini',
    words: ['a1', 'a2', 'b1', 'b2'],
    most: 4,
    write: (row) =>
      `[hold]\n${lines(row, (word) => `+Find=(Kind=${at(word, 0)},Count=${at(word, 1)})\n`)}`,
  },
  {
    name: 'numbers',
    format: 'json',
    words: ['1', '2', '3'],
    most: 4,
    write: (row) => `{"hold": [${row.join(', ')}], "crew": 3}`,
  },
  {
    name: 'words',
    format: 'json',
    words: LETTERS,
    most: 5,
    write: jsonList((word) => `"${word}"`),
  },
  {
    name: 'switches',
    format: 'json',
    words: ['true', 'false', 'null'],
    most: 4,
    write: jsonList((word) => word),
  },
  {
    name: 'pairs',
    format: 'json',
    words: ['11', '12', '21', '22'],
    most: 3,
    write: jsonList((word) => `[${[...word].join(', ')}]`),
  },
  {
    name: 'kinds of values',
    format: 'json',
    words: ['1', '"a"', 'true', 'null', '[]', '[1]', '[1, 2]', '{}', '{"a": 1}', '{"a": [2]}'],
    most: 2,
    write: (row) =>
      `{${row.map((word, i) => `\n  "${at('abcdefgh', i)}": ${word}`).join(',')}\n}\n`,
  },
]

const OF_ENTRIES: readonly World[] = [
  {
    name: 'entries, some without an id',
    format: 'json',
    words: SOME_NAMELESS,
    most: 4,
    write: jsonList((word) =>
      at(word, 0) === '_'
        ? `{ "worth": ${at(word, 1)} }`
        : `{ "id": "${at(word, 0)}", "worth": ${at(word, 1)} }`,
    ),
  },
  {
    name: 'entries, some without an id',
    format: 'xml',
    words: SOME_NAMELESS,
    most: 4,
    write: xmlList((word) =>
      at(word, 0) === '_'
        ? `<find worth="${at(word, 1)}"/>`
        : `<find id="${at(word, 0)}" worth="${at(word, 1)}"/>`,
    ),
  },
  {
    name: 'entries without a name',
    format: 'json',
    words: ['111', '112', '122', '211', '222'],
    most: 4,
    write: jsonList(
      (word) =>
        `{ "kind": ${at(word, 0)}, "worth": ${at(word, 1)}, "spot": { "x": ${at(word, 2)} } }`,
    ),
  },
  {
    name: 'entries that are known by what they hold',
    format: 'json',
    words: ['a1', 'a2', 'a3', 'b1', 'b2', 'c1'],
    most: 4,
    write: jsonList((word) => `{ ${fieldsOf(word)} }`),
  },
  {
    name: 'entries that are known by what they hold',
    format: 'xml',
    words: ['a1', 'a2', 'a3', 'b1', 'b2', 'c1'],
    most: 4,
    write: xmlList((word) => `<find>${elementsOf(word)}</find>`),
  },
  {
    name: 'entries with lists',
    format: 'json',
    words: ['a', 'ax', 'ay', 'axy', 'b', 'bx'],
    most: 3,
    write: jsonList(
      (word) =>
        `{ "id": "${at(word, 0)}", "kit": [${[...word.slice(1)].map((item) => `"${item}"`).join(', ')}] }`,
    ),
  },
  {
    name: 'entries with elements',
    format: 'xml',
    words: ['a', 'ax', 'ay', 'axy', 'b', 'bx'],
    most: 3,
    write: xmlList(
      (word) =>
        `<find id="${at(word, 0)}">${[...word.slice(1)].map((item) => `<kit>${item}</kit>`).join('')}</find>`,
    ),
  },
  {
    name: 'renamed entries',
    format: 'json',
    words: ['na1', 'na2', 'nb1', 'ma1', 'ma2', 'mb1', 'kc1'],
    most: 3,
    write: (row) =>
      `{${row.map((word) => `\n  "${at(word, 0)}": { ${fieldsOf(word.slice(1))} }`).join(',')}\n}\n`,
  },
  {
    name: 'renamed entries',
    format: 'xml',
    words: ['na1', 'na2', 'nb1', 'ma1', 'ma2', 'mb1', 'kc1'],
    most: 3,
    write: (row) =>
      `<hold>\n${lines(row, (word) => `  <find id="${at(word, 0)}">${elementsOf(word.slice(1))}</find>\n`)}</hold>\n`,
  },
  {
    name: 'renamed sections',
    format: 'ini',
    words: ['na1', 'na2', 'nb1', 'ma1', 'mb1', 'kc1'],
    most: 3,
    write: (row) =>
      lines(
        row,
        (word) =>
          `[${at(word, 0)}]\n${telling(word.slice(1))
            .map(([name, value]) => `${name} = ${value}\n`)
            .join('')}\n`,
      ),
  },
]

const THAT_MOVE: readonly World[] = [
  {
    name: 'entries in two lists',
    format: 'json',
    words: MOVING,
    most: 5,
    write: (row) => {
      const [deck, hold] = inTwo(row).map((words) =>
        words
          .map((word) => `\n    { "id": "${at(word, 0)}", ${fieldsOf(word)} }`)
          .concat('\n    { "id": "keel" }')
          .join(','),
      )
      return `{\n  "deck": [${deck}\n  ],\n  "hold": [${hold}\n  ]\n}\n`
    },
  },
  {
    name: 'members of two objects',
    format: 'json',
    words: MOVING,
    most: 5,
    write: (row) => {
      const [deck, hold] = inTwo(row).map((words) =>
        words
          .map((word) => `\n    "${at(word, 0)}": { ${fieldsOf(word)} }`)
          .concat('\n    "keel": 1')
          .join(','),
      )
      return `{\n  "deck": {${deck}\n  },\n  "hold": {${hold}\n  }\n}\n`
    },
  },
  {
    name: 'entries in two elements',
    format: 'xml',
    words: MOVING,
    most: 5,
    write: (row) => {
      const [deck, hold] = inTwo(row).map((words) =>
        lines(words, (word) => `    <find id="${at(word, 0)}">${elementsOf(word)}</find>\n`),
      )
      return `<ship>\n  <deck>\n${deck}  </deck>\n  <hold>\n${hold}  </hold>\n</ship>\n`
    },
  },
  {
    name: 'nameless entries in two elements',
    format: 'xml',
    words: MOVING,
    most: 5,
    write: (row) => {
      const [deck, hold] = inTwo(row).map((words) =>
        lines(words, (word) => `    <find>${elementsOf(word)}</find>\n`),
      )
      return `<ship>\n  <deck>\n${deck}  </deck>\n  <hold>\n${hold}  </hold>\n</ship>\n`
    },
  },
  {
    name: 'keys in two sections',
    format: 'ini',
    words: MOVING,
    most: 5,
    write: (row) => {
      const [deck, hold] = inTwo(row).map((words) =>
        lines(words, (word) => `${at(word, 0)}_load = ${VALUES[at(word, 1)] ?? ''}\n`),
      )
      return `[deck]\nlamp = 1\n${deck}\n[hold]\nlamp = 2\n${hold}`
    },
  },
  {
    name: 'sections and keys',
    format: 'ini',
    words: ['[s]', '[t]', 'k=1', 'k=2', 'j=1'],
    most: 5,
    write: (row) =>
      `[r]\nz=0\n${lines(row, (word) => `${word.startsWith('[') ? '\n' : ''}${word}\n`)}`,
  },
]

/** Comments, keys and blank lines: what is in comments, what stands above what, and what stands behind it. */
const COMMENTED = ['a1', 'a2', 'b1', '#a1', '#a2', '#b2', '~', '*x', '*y', 'c1*x', 'c1*y', 'c2']

const commentWords = (
  key: (name: string, value: string) => string,
  comment: (text: string) => string,
  indent: string,
): ((word: string) => string) => {
  const keyOf = (word: string): string => key(at(word, 0), at(word, 1))
  const words: Record<string, string> = { x: 'soft ground', y: 'mind the kelp' }
  return (word) => {
    if (word === '~') return '\n'
    if (word.startsWith('#')) return `${indent}${comment(keyOf(word.slice(1)))}\n`
    if (word.startsWith('*')) return `${indent}${comment(words[at(word, 1)] ?? '')}\n`
    const behind = word.includes('*') ? ` ${comment(words[at(word, 3)] ?? '')}` : ''
    return `${indent}${keyOf(word)}${behind}\n`
  }
}

const WITH_COMMENTS: readonly World[] = [
  {
    name: 'comments',
    format: 'ini',
    words: COMMENTED,
    most: 7,
    write: (row) =>
      // that comments stand behind values is clear of each document
      `[dive]\nx = 1 ; deep\ny = 2 ; deep\n${lines(
        row,
        commentWords(
          (name, value) => `${name} = ${value}`,
          (text) => `; ${text}`,
          '',
        ),
      )}z = 1\n`,
  },
  {
    name: 'comments',
    format: 'json',
    words: COMMENTED,
    most: 7,
    write: (row) =>
      `{\n${lines(
        row,
        commentWords(
          (name, value) => `"${name}": ${value},`,
          (text) => `// ${text}`,
          '  ',
        ),
      )}  "z": 1\n}\n`,
  },
  {
    name: 'comments',
    format: 'xml',
    words: COMMENTED,
    most: 7,
    write: (row) =>
      `<dive>\n${lines(
        row,
        commentWords(
          (name, value) => `<${name}>${value}</${name}>`,
          (text) => `<!-- ${text} -->`,
          '  ',
        ),
      )}  <z>1</z>\n</dive>\n`,
  },
  {
    name: 'text beside elements',
    format: 'xml',
    words: ['reef', 'wreck', '<b>1</b>', '<b>2</b>', '<c/>', '<!--deep-->'],
    most: 4,
    write: (row) => `<dive>\n  <say>${row.join('')}</say>\n  <b>1</b>\n</dive>\n`,
  },
  {
    name: 'sections in comments',
    format: 'ini',
    words: ['a1', 'a2', 'b1', '#a1', '#a2', '#b1', '*'],
    most: 4,
    once: ['#a1', '#a2', '#b1'],
    write: (row) =>
      `[dive]\ncrew = 3\n\n${lines(row, (word) => {
        if (word === '*') return '; soft ground\n'
        const mark = word.startsWith('#') ? ';' : ''
        const [name, value] = [...word.replace('#', '')]
        return `${mark}[${name ?? ''}]\n${mark}worth = ${value ?? ''}\n${mark}bed = reef\n\n`
      })}[end]\nlast = 1\n`,
  },
  {
    name: 'entries in comments',
    format: 'xml',
    words: ['a1', 'a2', 'b1', '#a1', '#a2', '#b1', '*'],
    most: 4,
    write: (row) =>
      `<hold>\n  <find id="keel" worth="1"/>\n${lines(row, (word) => {
        if (word === '*') return '  <!-- soft ground -->\n'
        const name = word.replace('#', '')
        const entry = `<find id="${at(name, 0)}" worth="${at(name, 1)}"/>`
        return `  ${name === word ? entry : `<!-- ${entry} -->`}\n`
      })}</hold>\n`,
  },
]

/** What entries hold that have no name: texts, elements, lists in lists; and entries of several names in one list. */
const THAT_HOLD: readonly World[] = [
  {
    name: 'nameless entries of text and elements',
    format: 'xml',
    words: ['a', 'b', 'k1', 'k2', 'ak1', 'k1b', 'l1', 'k1l1', ''],
    most: 3,
    write: xmlList((word) => `<find>${word.replace(/([kl])(\d)/g, '<$1>$2</$1>')}</find>`),
  },
  {
    name: 'elements of several names',
    format: 'xml',
    words: ['fa', 'fb', 'la', 'lb', 'f@a', 'l@a', 'f@ab'],
    most: 4,
    write: xmlList((word) => {
      const name = word.startsWith('f') ? 'find' : 'lamp'
      if (!word.includes('@')) return `<${name}>${at(word, 1)}</${name}>`
      return `<${name} worth="${at(word, 2)}">${at(word, 3)}</${name}>`
    }),
  },
  {
    name: 'values in lists',
    format: 'json',
    words: ['[1]', '[1, 2]', '[[1], 2]', '{"a": [1]}', '{"a": [1, 2]}', '{"a": {"b": 1}}', '"x"'],
    most: 3,
    write: jsonList((word) => word),
  },
  {
    name: 'small entries in lists',
    format: 'json',
    words: ['12', '13', '22', '1', '2', '123', '124'],
    most: 3,
    write: jsonList(
      (word) => `{ ${[...word].map((value, i) => `"${at('abc', i)}": ${value}`).join(', ')} }`,
    ),
  },
  {
    name: 'many repeated words',
    format: 'json',
    words: LETTERS,
    most: 14,
    write: jsonList((word) => `"${word}"`),
  },
  {
    name: 'many nameless entries',
    format: 'xml',
    words: ['a1', 'a2', 'b1', 'b2', 'c1', 'd1', 'e1', 'f1', 'g1', 'h1'],
    most: 14,
    write: xmlList((word) => `<find>${elementsOf(word)}</find>`),
  },
  {
    name: 'ids in several lists',
    format: 'json',
    words: ['a1', 'a2', 'b1', 'c1', 'd1', '_1', '|'],
    most: 6,
    write: (row) => {
      const [deck, hold] = inTwo(row).map((words) =>
        words
          .map((word) => `{"id": "${at(word, 0)}", "worth": ${at(word, 1)}, "kit": ["x"]}`)
          .map((entry) => entry.replace('"id": "_", ', ''))
          .join(', '),
      )
      return `[{"name": "deck", "load": [${deck}]}, {"name": "hold", "load": [${hold}]}]`
    },
  },
]

/** Documents on one line, with other roots, with things around the root, in other indentation. */
const IN_OTHER_FORMS: readonly World[] = [
  {
    name: 'documents on one line',
    format: 'json',
    words: ['a1', 'a2', 'b1', 'c[1]', 'c[1,2]', 'd{"x":1}', 'd{}'],
    most: 4,
    write: (row) => `{${row.map((word) => `"${at(word, 0)}":${word.slice(1)}`).join(',')}}`,
  },
  {
    name: 'documents on one line',
    format: 'xml',
    words: ['<a/>', '<a>1</a>', '<b x="1"/>', '<b x="2"><c/></b>', '<b><c/><d/></b>', '<!--e-->'],
    most: 4,
    write: (row) => `<dive>${row.join('')}</dive>`,
  },
  {
    name: 'what stands around the root',
    format: 'xml',
    words: ['<!--a-->\n', '<!--b-->\n', '<?dive a?>\n', '<?dive b?>\n', 'R', 'S', '\n'],
    most: 4,
    once: ['<!--a-->\n', '<!--b-->\n'],
    write: (row) => {
      const root = row.includes('S') ? 'hold' : 'dive'
      const before = row.filter((word) => word !== 'R' && word !== 'S').join('')
      return `${before}<${root} worth="${row.length % 2}">\n  <crew>3</crew>\n</${root}>\n${row.includes('R') ? '<!--last-->\n' : ''}`
    },
  },
  {
    name: 'roots',
    format: 'json',
    words: ['[]', '[1]', '[1, 2]', '{}', '{"a": 1}', '"x"', '7', '// deep'],
    most: 1,
    write: (row) => `${row.includes('// deep') ? '// deep\n[]' : (row[0] ?? 'null')}\n`,
  },
  {
    name: 'lists that are filled and emptied',
    format: 'xml',
    words: ['a', 'b', 'a2', 'tab', 'open', 'self'],
    most: 4,
    write: (row) => {
      const indent = row.includes('tab') ? '\t' : '  '
      const entries = row.filter((word) => word.length < 3)
      const empty = row.includes('self') ? '<hold/>' : '<hold></hold>'
      const hold = row.includes('open')
        ? `<hold>${lines(entries, (word) => `<find id="${word}"/>`)}</hold>`
        : `<hold>\n${lines(entries, (word) => `${indent}${indent}<find id="${word}">\n${indent.repeat(3)}<bed/>\n${indent}${indent}</find>\n`)}${indent}</hold>`
      return `<dive>\n${indent}${entries.length === 0 ? empty : hold}\n${indent}<crew/>\n</dive>\n`
    },
  },
  {
    name: 'lists that are filled and emptied',
    format: 'json',
    words: ['1', '2', '3', 'tab', 'one'],
    most: 4,
    write: (row) => {
      const indent = row.includes('tab') ? '\t' : '    '
      const items = row.filter((word) => word.length < 3)
      const hold = row.includes('one')
        ? `[${items.join(', ')}]`
        : `[\n${items.map((item) => indent.repeat(2) + item).join(',\n')}\n${indent}]`
      return `{\n${indent}"hold": ${items.length === 0 ? '[]' : hold},\n${indent}"crew": {}\n}\n`
    },
  },
]

const AS_CONFIGURED: readonly World[] = [
  {
    name: 'where order matters',
    format: 'xml',
    words: ['a', 'b', 'c', 'd'],
    most: 4,
    write: (row) =>
      `<charts>\n${lines([...new Set(row)], (word) => `  <chart id="${word}"/>\n`)}</charts>\n`,
    options: { ordered: new Set(['chart']) },
  },
  {
    name: 'where order matters',
    format: 'json',
    words: ['a', 'b', 'c', 'd'],
    most: 4,
    write: (row) => `{"charts": [${[...new Set(row)].map((word) => `"${word}"`).join(', ')}]}\n`,
    options: { ordered: new Set(['charts']) },
  },
  {
    name: 'values that are lists',
    format: 'ini',
    words: LETTERS,
    most: 4,
    write: (row) => `[dive]\nloads = ${row.join(', ')}\ncrew = 3\n`,
    options: { lists: new Map([['dive/loads', ',']]) },
  },
  {
    name: 'keys that belong together',
    format: 'ini',
    words: ['k=1', 'k=2', 'j=1', 'j=2', 'i=1'],
    most: 3,
    write: (row) => `[dive]\n${lines(row, (word) => `${word}\n`)}z=0\n`,
    options: { together: [['dive/k', 'dive/j']] },
  },
  {
    name: 'keys that belong together in entries',
    format: 'json',
    words: ['a11', 'a12', 'a21', 'a22', 'b11', 'b12'],
    most: 3,
    write: jsonList(
      (word) => `{ "id": "${at(word, 0)}", "least": ${at(word, 1)}, "most": ${at(word, 2)} }`,
    ),
    options: { together: [['hold/least', 'hold/most']] },
  },
  {
    name: 'keys that belong together, at other depths',
    format: 'xml',
    words: ['l1', 'l2', 'm1', 'm2', 's1', 's2'],
    most: 3,
    write: (row) =>
      `<dive>\n  <reach>\n${lines(row, (word) => {
        const [name = '', value = ''] = word
        if (name === 'l') return `    <least>${value}</least>\n`
        return name === 'm' ? `    <most at="${value}"/>\n` : `    <say>${value}</say>\n`
      })}  </reach>\n  <crew>3</crew>\n</dive>\n`,
    options: { together: [['reach/least', 'reach/most/@at', 'crew']] },
  },
]

export const WORLDS: readonly World[] = [
  ...PLAIN,
  ...OF_ENTRIES,
  ...THAT_MOVE,
  ...WITH_COMMENTS,
  ...THAT_HOLD,
  ...IN_OTHER_FORMS,
  ...AS_CONFIGURED,
]

function rowOf({ words, most }: World, roll: Dice): string[] {
  return Array.from({ length: roll(most + 1) }, () => words[roll(words.length)] ?? '')
}

function withOnce(row: Row, { once = [] }: World): Row {
  return row.filter((word, i) => !once.includes(word) || row.indexOf(word) === i)
}

/** A row after one or two edits: a word put in, taken out, replaced, or put elsewhere. */
function edited(row: Row, { words }: World, roll: Dice): string[] {
  const result = [...row]
  for (let edits = 1 + roll(2); edits > 0; edits--) {
    const word = words[roll(words.length)] ?? ''
    const from = roll(result.length + 1)
    const sort = roll(5)
    if (sort === 0) result.splice(from, 0, word)
    else if (sort === 1) result.splice(from, 1)
    else if (sort === 2) result.splice(roll(result.length + 1), 0, ...result.splice(from, 1))
    else result.splice(from, 1, word)
  }
  return result
}

export type Rows = readonly [old: Row, fresh: Row, mine: Row]

/** Stories in a world: most are edits of old on both sides, some three rows that have nothing to do with each other. */
export function storiesIn(world: World, count: number, seed = 4102): Rows[] {
  const roll = dice(seed)
  return Array.from({ length: count }, () => {
    const old = rowOf(world, roll)
    const side = (): Row =>
      withOnce(roll(5) === 0 ? rowOf(world, roll) : edited(old, world, roll), world)
    return [withOnce(old, world), side(), side()]
  })
}
