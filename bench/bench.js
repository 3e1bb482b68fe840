// Measures the program against the goals of its design, as ratios, and prints a table.
//   npm run bench [-- --pairs N] [--only WORD]
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { parseArgs } from 'node:util'
import { bigFile, writeThree, writeTrees } from './data.js'
import { writeHeavy } from './heavy.js'
import { growingFiles, hostileFiles } from './hostile.js'
import { carryOf, compare, median, peakOf, timeOf } from './measure.js'

const { values } = parseArgs({
  options: { pairs: { type: 'string', default: '7' }, only: { type: 'string', default: '' } },
})
const pairs = Number(values.pairs)
const root = mkdtempSync(join(tmpdir(), 'anagnosis-bench-'))
const script = (name) => fileURLToPath(new URL(name, import.meta.url))
const three = (extension) => ['old', 'new', 'mine'].map((name) => `${name}.${extension}`)

const rows = []
function row(what, measured, goal, detail) {
  rows.push(what)
  const verdict = goal === undefined ? '' : measured <= Number(goal) ? 'yes' : 'no'
  console.log(
    `${what.padEnd(46)}${measured.toFixed(2).padStart(8)}${(goal ?? '').padStart(7)}${verdict.padStart(5)}   ${detail}`,
  )
}
const seconds = (ms) => (ms < 1000 ? `${ms.toFixed(0)} ms` : `${(ms / 1000).toFixed(2)} s`)
const against = ({ program, reference }) => `${seconds(program)} : ${seconds(reference)}`

/** A carry of three folders beside what reads, parses and writes as many files. */
function ofFolders(what, folder, goal) {
  const reference = [script('read-write-json.js'), 'old', 'new', 'mine']
  const result = compare(() => carryOf(), reference, pairs, folder)
  row(`${what} / read, parse, write`, result.ratio, goal, against(result))
}

/** How much longer ten times the input takes. */
function growthOf({ what, extension, texts }) {
  const [small, big] = [1, 10].map((times) => {
    const folder = join(root, 'growing', `${what.replace(/\W+/g, '-')}-${times}`)
    writeThree(folder, extension, texts(times))
    const runs = Math.min(pairs, 3)
    return median(Array.from({ length: runs }, () => timeOf(carryOf(`.${extension}`), folder)))
  })
  return [`growth: ${what}`, big / small, '11.00', `${seconds(big)} : ${seconds(small)}`]
}

const MEASUREMENTS = {
  start() {
    const folder = join(root, 'start')
    writeThree(folder, 'xml', bigFile('xml', 5))
    const result = compare(() => carryOf('.xml'), ['-e', '0'], Math.max(pairs, 15), folder)
    row('start: carry of 3 x 2 kB / node -e 0', result.ratio, '1.60', against(result))
  },
  xml() {
    const folder = join(root, 'xml')
    const bytes = writeThree(folder, 'xml', bigFile('xml', 60_000))
    const result = compare(
      () => carryOf('.xml'),
      [script('read-saxes.js'), ...three('xml').map((name) => join(folder, name))],
      pairs,
      folder,
    )
    row('XML: 60,000 entries / saxes reading them', result.ratio, '1.00', against(result))
    const peak = peakOf(carryOf('.xml'), folder)
    row(
      '  peak memory / bytes of the inputs',
      peak / bytes,
      '7.00',
      `${(peak / 1e6).toFixed(0)} MB : ${(bytes / 1e6).toFixed(0)} MB`,
    )
  },
  json() {
    const folder = join(root, 'json')
    writeThree(folder, 'json', bigFile('json', 60_000))
    const result = compare(
      () => carryOf('.json'),
      [script('read-json.js'), ...three('json')],
      pairs,
      folder,
    )
    row('JSON: 60,000 entries / JSON.parse of them', result.ratio, '2.00', against(result))
  },
  heavy() {
    const folder = join(root, 'heavy')
    writeHeavy(folder)
    ofFolders('heavy update: 3,000 JSON files', folder, '4.00')
  },
  light() {
    const folder = join(root, 'light')
    writeTrees(folder, 5000)
    ofFolders('light update: 5,000 JSON files', folder, '1.30')
  },
  growth() {
    for (const format of ['xml', 'json']) {
      const folders = [6_000, 60_000].map((count) => {
        const folder = join(root, `growth-${format}-${count}`)
        writeThree(folder, format, bigFile(format, count))
        return folder
      })
      const times = folders.map((folder) =>
        median(Array.from({ length: pairs }, () => timeOf(carryOf(`.${format}`), folder))),
      )
      const [small = 1, big = 0] = times
      row(
        `growth: ten times the ${format.toUpperCase()} input`,
        big / small,
        '11.00',
        `${seconds(big)} : ${seconds(small)}`,
      )
    }
    for (const growing of growingFiles()) row(...growthOf(growing))
  },
  hostile() {
    for (const { what, extension, texts } of hostileFiles()) {
      const folder = join(root, 'hostile', what.replace(/\W+/g, '-'))
      writeThree(folder, extension, texts)
      const time = timeOf(carryOf(`.${extension}`), folder)
      row(`${what}, in seconds`, time / 1000, undefined, 'one run')
    }
  },
}

console.log(`${'what'.padEnd(46)}measured   goal met   medians of ${pairs} pairs`)
try {
  for (const [name, measure] of Object.entries(MEASUREMENTS))
    if (name.includes(values.only)) measure()
} finally {
  rmSync(root, { recursive: true })
}
if (rows.length === 0) console.error(`no measurement has ${values.only} in its name`)
