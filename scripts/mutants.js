// Changes the merge in one place at a time and shows what the tests of core find of it: matching, plan and writing.
//   npm run mutants                        every place: a night on two cores
//   npm run mutants -- --lines 150         as many lines, drawn by --seed (4102): what share of all is found, in an hour
// What is behind -- goes to Stryker: npm run mutants -- --lines 20 -- --concurrency 1
import { spawnSync } from 'node:child_process'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { parseArgs } from 'node:util'
import { numbers } from '../bench/data.js'

const { mutate } = JSON.parse(readFileSync('stryker.config.json', 'utf8'))
const ROOMS = mutate.map((pattern) => pattern.replace('/**/*.ts', ''))

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { lines: { type: 'string' }, seed: { type: 'string', default: '4102' } },
})

/** Lines that may do something: no comments, imports or closing brackets. */
function linesOf(path) {
  const lines = readFileSync(path, 'utf8').split('\n')
  return lines.flatMap((line, at) =>
    /^\s*($|\*|\/\*|\/\/|import |[\]})]+[,;]?$)/.test(line) ? [] : [`${path}:${at + 1}-${at + 1}`],
  )
}

/** Draws some of many, the same for the same seed. */
function drawn(all, count, seed) {
  const next = numbers(seed)
  const left = [...all]
  return Array.from(
    { length: Math.min(count, left.length) },
    () => left.splice(Math.floor(next() * left.length), 1)[0],
  )
}

function sample() {
  if (values.lines === undefined) return []
  const files = ROOMS.flatMap((room) =>
    readdirSync(room, { recursive: true })
      .filter((name) => name.endsWith('.ts'))
      .map((name) => join(room, name).replaceAll('\\', '/')),
  ).sort()
  const lines = drawn(files.flatMap(linesOf), Number(values.lines), Number(values.seed))
  return ['--mutate', lines.sort().join(',')]
}

const stryker = 'node_modules/@stryker-mutator/core/bin/stryker.js'
const { status } = spawnSync(process.execPath, [stryker, 'run', ...sample(), ...positionals], {
  stdio: 'inherit',
})
process.exit(status ?? 1)
