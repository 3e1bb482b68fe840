// Inputs that are hard on a merge: all entries moved, no identity to tell them apart, text among them, a
// very long text. And inputs of two sizes, of which the greater may take no longer than its share.
import { bigFile, numbers } from './data.js'

const COUNT = 60_000

function* allMoved() {
  const { old, new: fresh, mine } = bigFile('xml', COUNT)
  const head = old.slice(0, old.indexOf('  <find '))
  const reversed = (text) =>
    `${head}${text
      .slice(head.length, text.indexOf('</finds>'))
      .split(/(?=^ {2}<find )/m)
      .reverse()
      .join('')}</finds>\n`
  yield {
    what: '60,000 entries, all moved by mine',
    extension: 'xml',
    texts: { old, new: fresh, mine: reversed(mine) },
  }
}

function* withoutIdentity() {
  const next = numbers(4102)
  const line = (i, worth) =>
    `  <sound strength="${(i * 7) % 9}" at="${(i * 13) % 50}"><worth>${worth}</worth></sound>\n`
  const text = () => {
    const entries = Array.from({ length: COUNT }, (_, i) =>
      line(i, next() < 0.05 ? 1 + ((i * 3) % 40) : i % 40),
    )
    return `<sounds>\n${entries.join('')}</sounds>\n`
  }
  yield {
    what: '60,000 entries without identity',
    extension: 'xml',
    texts: { old: text(), new: text(), mine: text() },
  }
}

/** Text among entries: blanks are content there, so nothing is fitted. */
function* besideText() {
  const texts = Object.entries(bigFile('xml', COUNT)).map(([name, text]) => [
    name,
    text.replace('<finds>\n', '<finds>Found so far:\n'),
  ])
  yield {
    what: '60,000 entries beside text',
    extension: 'xml',
    texts: Object.fromEntries(texts),
  }
}

function* longText() {
  const next = numbers(4102)
  const lines = Array.from({ length: 200_000 }, (_, i) => `line ${i} of the log, ${i % 7}`)
  const text = () =>
    `${lines.map((line) => (next() < 0.02 ? `${line} changed` : line)).join('\n')}\n`
  yield {
    what: 'a text of 200,000 lines',
    extension: 'txt',
    texts: { old: `${lines.join('\n')}\n`, new: text(), mine: text() },
  }
}

export function* hostileFiles() {
  yield* allMoved()
  yield* withoutIdentity()
  yield* besideText()
  yield* longText()
}

/** Three texts of one list or value each: vanilla changes an end of it, mine the other. */
function sides(make) {
  return { old: make('a', 'a'), new: make('b', 'a'), mine: make('a', 'c') }
}

/** Inputs that a reader or a merge could go over once more for each of their parts. */
export function growingFiles() {
  const filler = 'heavier than it looks, and older than the reef that it lay in; '
  return [
    {
      what: 'one value of 1 and of 10 MB',
      extension: 'json',
      texts: (times) =>
        sides(
          (a, b) => `{ "note": "${a}${filler.repeat(16_000 * times)}${b}", "other": "${a}${b}" }\n`,
        ),
    },
    {
      what: '2,000 and 20,000 numbers of a section, all changed',
      extension: 'ini',
      texts: (times) => {
        const section = (change) =>
          `[Tuning]\n${Array.from({ length: 2_000 * times }, (_, i) => `Tide${i}=${change(i)}\n`).join('')}`
        const value = (i) => (i * 37) % 1_000
        return {
          old: section(value),
          new: section((i) => value(i) + (i % 2) * 5),
          mine: section((i) => value(i) + ((i + 1) % 2) * 400),
        }
      },
    },
    {
      what: 'a list of 30,000 and of 300,000 numbers',
      extension: 'json',
      texts: (times) =>
        sides((a, b) => {
          const items = Array.from({ length: 30_000 * times }, (_, i) => `"item ${i}"`)
          return `{ "list": [\n"${a}",\n${items.join(',\n')},\n"${b}"\n] }\n`
        }),
    },
    {
      what: 'an INI value in braces, 200 kB and 2 MB',
      extension: 'ini',
      texts: (times) =>
        sides(
          (a, b) =>
            `[sea]\ntable = {\n  ${a},\n${`  { ${filler} },\n`.repeat(2900 * times)}  ${b}\n}\nend = 1\n`,
        ),
    },
    {
      what: 'an INI value in quotes over lines, 200 kB and 2 MB',
      extension: 'ini',
      texts: (times) =>
        sides(
          (a, b) => `[sea]\nnote = "${a}\n${`${filler}\n`.repeat(3100 * times)}${b}"\nend = 1\n`,
        ),
    },
    {
      what: 'nested entities, 100 kB and 1 MB',
      extension: 'xml',
      texts: (times) =>
        sides((a, b) => {
          const count = 2000 * times
          const inner = Array.from(
            { length: count },
            (_, i) => `<!ENTITY e${i + 1} "&e${i};&e${i};&e${i};">\n`,
          )
          return `<!DOCTYPE finds [\n<!ENTITY e0 "x">\n${inner.join('')}]>\n<finds>\n<a>${a}</a><b>${b}</b><c>&e${count};</c>\n</finds>\n`
        }),
    },
  ]
}
