// How long the program takes to start, as a ratio: carry on three small files against node -e 0,
// the two in turn, the median of the pairs.
import { spawnSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'

const PAIRS = Number(process.argv[2] ?? 15)
const entry = fileURLToPath(new URL('../bin/anagnosis.js', import.meta.url))
const folder = mkdtempSync(join(tmpdir(), 'anagnosis-bench-'))

const file = (worth, most) =>
  `<finds>\n${Array.from({ length: 20 }, (_, i) => `  <find id="lamp-${i}"><worth>${worth}</worth><yield most="${most}"/></find>\n`).join('')}</finds>\n`
const inputs = { old: file(5, 2), new: file(6, 2), mine: file(5, 8) }
for (const [name, text] of Object.entries(inputs)) writeFileSync(join(folder, `${name}.xml`), text)

function time(args) {
  const start = process.hrtime.bigint()
  const { status } = spawnSync(process.execPath, args, { cwd: folder, stdio: 'ignore' })
  if (status !== 0) throw new Error(`${args.join(' ')} ended with ${status}`)
  return Number(process.hrtime.bigint() - start) / 1e6
}

const carry = [
  entry,
  'carry',
  '--old',
  'old.xml',
  '--new',
  'new.xml',
  '--mine',
  'mine.xml',
  '--out',
  'out.xml',
  '--replace',
]
const pairs = Array.from({ length: PAIRS + 1 }, () => [time(carry), time(['-e', '0'])]).slice(1)
const median = (values) => [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0

console.log('what                                      measured   goal')
const ratio = median(pairs.map(([program, bare]) => program / bare))
console.log(`start: carry of 3 x 2 kB / node -e 0      ${ratio.toFixed(2).padStart(8)}   1.80`)
console.log(
  `  (${median(pairs.map(([program]) => program)).toFixed(0)} ms against ${median(pairs.map(([, bare]) => bare)).toFixed(0)} ms, ${PAIRS} pairs)`,
)
rmSync(folder, { recursive: true })
