// Runs this build and another one over the same inputs and compares results and reports byte by byte: the
// golden cases, the demo data, the data of the measurements, and generated merges.
//   node scripts/compare-builds.js OLD_BUILD [--merges 20000] [--seed 4102] [--only WORD] [--wanted FILE]
// OLD_BUILD is a folder with a built program. FILE lists the differences that are wanted, as
//   [{ "why": "…", "in": "regular expression on set/path", "part": "text" | "report", "members": ["hint"] }]
// where `has` names a member that the report must have now, and `members` says that only members of those names differ; all but
// `why` may be left out.
import { spawnSync } from 'node:child_process'
import {
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join, resolve } from 'node:path'
import { fileURLToPath } from 'node:url'
import { parseArgs } from 'node:util'
import { build } from 'esbuild'
import { bigFile, writeTrees } from '../bench/data.js'
import { writeHeavy } from '../bench/heavy.js'
import { hostileFiles } from '../bench/hostile.js'

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    merges: { type: 'string', default: '20000' },
    seed: { type: 'string', default: '4102' },
    only: { type: 'string', default: '' },
    wanted: { type: 'string', default: 'scripts/wanted-differences.json' },
  },
})
const [other] = positionals
if (other === undefined || !existsSync(join(other, 'bin', 'anagnosis.js'))) {
  console.error('usage: node scripts/compare-builds.js OLD_BUILD [--merges N] [--only WORD]')
  process.exit(2)
}
const home = fileURLToPath(new URL('..', import.meta.url))
const programs = [resolve(other), home].map((folder) => join(folder, 'bin', 'anagnosis.js'))
const wanted = JSON.parse(readFileSync(values.wanted, 'utf8'))
const root = mkdtempSync(join(tmpdir(), 'anagnosis-compare-'))

const SIDES = ['old', 'new', 'mine']
/** So many merges are carried by one run. */
const AT_ONCE = 2500
/** So many differences are shown. */
const SHOWN = 20

/** Writes one file on all three sides of a set. */
function put(folder, path, texts) {
  for (const [i, side] of SIDES.entries()) {
    const file = join(folder, side, path)
    mkdirSync(dirname(file), { recursive: true })
    writeFileSync(file, texts[i])
  }
}

function goldenCases(folder) {
  const cases = join(home, 'test', 'core', 'cases')
  for (const name of readdirSync(cases).sort()) {
    const files = existsSync(join(cases, name, 'case.ts')) ? readdirSync(join(cases, name)) : []
    const old = files.find((file) => file.startsWith('old.'))
    if (old === undefined) continue
    const extension = old.slice('old'.length)
    const texts = SIDES.map((side) => readFileSync(join(cases, name, side + extension)))
    put(folder, name + extension, texts)
  }
}

function demoData(folder) {
  const data = join(home, 'demo', 'data')
  for (const [i, name] of ['vanilla-4.1', 'vanilla-4.2', 'old-harbour'].entries())
    cpSync(join(data, name), join(folder, SIDES[i]), { recursive: true })
}

function big(format) {
  return (folder) => put(folder, `finds.${format}`, Object.values(bigFile(format, 60_000)))
}

function hostile(folder) {
  for (const { what, extension, texts } of hostileFiles())
    put(folder, `${what.replace(/\W+/g, '-')}.${extension}`, Object.values(texts))
}

/** The generator of merges stands among the tests, in TypeScript. */
async function generator() {
  const outfile = join(home, 'dist', 'merges.mjs')
  await build({
    entryPoints: [join(home, 'test', 'soak', 'merges.ts')],
    outfile,
    bundle: true,
    format: 'esm',
    platform: 'node',
    packages: 'external',
    logLevel: 'warning',
  })
  return import(outfile)
}

async function* sets() {
  yield ['cases', goldenCases]
  yield ['demo', demoData]
  yield ['xml', big('xml')]
  yield ['json', big('json')]
  yield ['hostile', hostile]
  yield ['light', (folder) => writeTrees(folder, 5000)]
  yield ['heavy', writeHeavy]
  const count = Number(values.merges)
  const { merges } = await generator()
  for (let done = 0; done < count; done += AT_ONCE) {
    yield [
      `merges-${done}`,
      (folder) => {
        const some = merges(
          Math.min(AT_ONCE, count - done),
          Number(values.seed) + done,
          join(home, 'demo', 'data'),
        )
        for (const [i, { format, texts }] of some.entries())
          put(folder, `${i % 50}/${i}.${format}`, texts)
      },
    ]
  }
}

/** Carries a set with one program; gives its report, and each file of its result by path. */
function carry(program, folder) {
  const sides = SIDES.flatMap((side) => [`--${side}`, side])
  const { status, stdout, stderr } = spawnSync(
    process.execPath,
    [program, 'carry', ...sides, '--out', 'result', '--json'],
    { cwd: folder, encoding: 'utf8', maxBuffer: 1 << 30 },
  )
  if (!stdout.startsWith('{')) throw new Error(`${program} ended with ${status}: ${stderr}`)
  const { files = [], ...rest } = JSON.parse(stdout)
  const result = join(folder, 'result')
  const found = existsSync(result)
    ? readdirSync(result, { recursive: true, withFileTypes: true })
    : []
  const texts = new Map(
    found
      .filter((each) => each.isFile())
      .map((each) => join(each.parentPath, each.name))
      .map((file) => [
        file.slice(result.length + 1).replaceAll('\\', '/'),
        readFileSync(file, 'latin1'),
      ]),
  )
  rmSync(result, { recursive: true, force: true })
  return { status, rest, files: new Map(files.map((file) => [file.path, file])), texts }
}

/** A report without members of some names, at any depth. */
const without = (names, report) =>
  JSON.stringify(report, (key, value) => (names.includes(key) ? undefined : value))

/** The first of the wanted differences that a difference is. */
function wantedFor({ at, part, before, after }) {
  return wanted.find((each) => {
    if (each.in !== undefined && !new RegExp(each.in).test(at)) return false
    if (each.part !== undefined && each.part !== part) return false
    if (each.has !== undefined && !without([], after)?.includes(`"${each.has}":`)) return false
    return (
      each.members === undefined || without(each.members, before) === without(each.members, after)
    )
  })
}

/** All differences of two runs over one set. */
function differences(name, [before, after]) {
  const found = []
  const look = (path, part, a, b) => {
    if (without([], a) !== without([], b))
      found.push({ at: `${name}/${path}`, part, before: a, after: b })
  }
  look(
    '',
    'report',
    { ...before.rest, status: before.status },
    { ...after.rest, status: after.status },
  )
  for (const path of new Set([...before.files.keys(), ...after.files.keys()]))
    look(path, 'report', before.files.get(path), after.files.get(path))
  for (const path of new Set([...before.texts.keys(), ...after.texts.keys()]))
    look(path, 'text', before.texts.get(path), after.texts.get(path))
  return found
}

/** What differs first, with a little of what stands around it. */
function excerpt({ before, after }) {
  const [a, b] = [before, after].map((each) => without([], each) ?? 'nothing')
  let at = 0
  while (at < a.length && a[at] === b[at]) at++
  const cut = (text) => text.slice(Math.max(0, at - 60), at + 140)
  return `    before … ${cut(a)}\n    after  … ${cut(b)}`
}

let files = 0
let unwanted = 0
const counts = new Map()
try {
  for await (const [name, write] of sets()) {
    if (!name.includes(values.only)) continue
    const folder = join(root, name)
    write(folder)
    const runs = programs.map((program) => carry(program, folder))
    files += runs[1].files.size
    for (const each of differences(name, runs)) {
      const why = wantedFor(each)?.why
      counts.set(why, (counts.get(why) ?? 0) + 1)
      if (why === undefined && ++unwanted <= SHOWN)
        console.log(`  ${each.part} of ${each.at}\n${excerpt(each)}`)
    }
    if (unwanted === 0) rmSync(folder, { recursive: true })
    console.log(`${name}: ${runs[1].files.size} files`)
  }
} finally {
  if (unwanted === 0) rmSync(root, { recursive: true })
  else console.log(`The inputs are in ${root}`)
}
for (const [why, count] of counts) console.log(`${count} differ: ${why ?? 'not wanted'}`)
console.log(`${files} files compared, ${unwanted} unwanted differences`)
process.exitCode = unwanted === 0 ? 0 : 1
