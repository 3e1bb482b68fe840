import assert from 'node:assert/strict'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { carryText } from '../../src/core/carry/carry-text.ts'
import type { CarriedText } from '../../src/core/carry/carry-text.ts'
import type { FormatName } from '../../src/core/formats/index.ts'
import { FORMAT_NAMES, formatNamed } from '../../src/core/formats/index.ts'
import { expectRest } from '../core/laws/any-texts.ts'
import type { Texts } from '../core/laws/laws.ts'
import { ALL_WAYS, NO_WAYS } from '../core/laws/short-ways.ts'

/** Files to begin with: those of the demo data that are short, and one of each dialect. */
export function beginnings(demo: string): Record<FormatName, string[]> {
  const found: Record<FormatName, string[]> = {
    xml: ['<a>\n  <b id="x" n="1">text</b>\n  <!-- one -->\n  <b id="y"/>\n  <c>1</c>\n</a>\n'],
    json: ['{\n  "a": [1, 2, 3],\n  "b": { "c": "text", "d": [] },\n  "e": null\n}\n'],
    ini: [
      '; one\na = 1\n\n[sea]\n; swell\nswell = 3\ntide = half\nlist = cod\nlist = eel\n',
      'swell 3\ntide half\nfog on\n',
      'swell: 3\ntide: half\n',
      '[x]\ntable = {\n  1, 2\n}\nname = "long\ntext"\n+key = 1\n-key = 2\n',
    ],
  }
  for (const file of readdirSync(demo, { recursive: true, encoding: 'utf8' })) {
    const format = FORMAT_NAMES.find((name) => file.endsWith(`.${name}`))
    if (format === undefined) continue
    const text = readFileSync(join(demo, file), 'utf8')
    found[format].push(text.length < 6000 ? text : excerpt(text, format))
  }
  found.xml.push(
    longList(
      '<finds>\n',
      (i, note) => `  <find id="f${i}" n="${i % 7}">${note}</find>\n`,
      '</finds>\n',
    ),
  )
  found.json.push(
    longList(
      '{ "finds": [\n',
      (i, note) => `  { "id": "f${i}", "n": ${i % 7}, "note": "${note}" },\n`,
      '  {}\n] }\n',
    ),
  )
  return found
}

/** So long a list that entries which nobody touched are left out of its merge. */
function longList(head: string, entry: (i: number, note: string) => string, tail: string): string {
  const note = 'heavier than it looks, and older than the reef that it lay in. '.repeat(3).trim()
  return head + Array.from({ length: 320 }, (_, i) => entry(i, note)).join('') + tail
}

/** The start of a long list, closed as its format wants it. */
function excerpt(text: string, format: FormatName): string {
  if (format !== 'xml') return text.slice(0, 6000).replace(/\n[^\n]*$/, '\n')
  const root = /<([a-z]+)[ >]/.exec(text.replace(/<[?!][^>]*>/g, ''))?.[1] ?? ''
  const upTo = text.lastIndexOf('\n  <', 6000)
  return `${text.slice(0, upTo)}\n</${root}>\n`
}

/** All that must hold of a carry whoever wrote the files and whatever was done to them. */
export function checkDocuments(texts: Texts, format: FormatName): void {
  const [old, fresh, mine] = texts
  const run = (...three: Texts): CarriedText =>
    carryText(three, { format: formatNamed(format), path: `a.${format}` })
  const carried = run(old, fresh, mine)
  if (carried.text === undefined) {
    checkProblems(carried, texts)
    return
  }
  const result = carried.text
  assert.deepEqual(run(old, fresh, mine), carried, 'the same inputs give the same result')
  for (const thresholds of [NO_WAYS, ALL_WAYS]) {
    const options = { format: formatNamed(format), path: `a.${format}`, thresholds }
    assert.deepEqual(carryText(texts, options), carried, 'short ways change nothing')
  }
  expectRest(texts, (three) => run(...three))
  const again = run(old, fresh, result)
  assert.notEqual(again.text, undefined, `it loads: ${again.problems[0]?.message ?? ''}\n${result}`)
  checkWords(carried, texts)
  assert.equal(again.text, result, 'a carry repeated changes nothing')
}

/** Nothing is lost, and nothing invented. */
function checkWords(carried: CarriedText, [old, fresh, mine]: Texts): void {
  const result = carried.text ?? ''
  const known = new Set(words([old, fresh, mine].join('\n')))
  assert.deepEqual(
    words(result).filter((word) => !known.has(word)),
    [],
    'nothing is invented',
  )
  const told = new Set(
    words(
      [
        result,
        ...carried.problems.map(({ message }) => message),
        ...carried.conflicts.flatMap((conflict) => [conflict.new ?? '', conflict.mine ?? '']),
      ].join('\n'),
    ),
  )
  const before = new Set(words(old))
  for (const word of words(`${fresh}\n${mine}`))
    if (!before.has(word)) assert.ok(told.has(word), `${word} is lost`)
}

/** Errors name a line and a column that are there. */
function checkProblems(carried: CarriedText, [old, fresh, mine]: Texts): void {
  const errors = carried.problems.filter(({ severity }) => severity === 'error')
  assert.ok(errors.length > 0, 'what is unread has an error')
  for (const { line, column, input, code } of errors) {
    const source = input === 'old' ? old : input === 'new' ? fresh : mine
    const text = source.split(/\r\n|\r|\n/)[(line ?? 0) - 1]
    assert.ok(text !== undefined && (column ?? 0) <= text.length + 2, `${code} has a place`)
  }
}

function words(text: string): string[] {
  return text.match(/[\p{L}\p{N}_]+/gu) ?? []
}
