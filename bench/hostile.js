// Inputs that are hard on a merge: all entries moved, no identity to tell them apart, text among them, a
// very long text.
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
