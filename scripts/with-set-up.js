// Does a job with all its set-up: packages from the lock file where they are missing or out of date,
// the build where the sources are newer than it, then the job itself. Fast the second time.
import { spawnSync } from 'node:child_process'
import { existsSync, readdirSync, statSync } from 'node:fs'
import { join } from 'node:path'

const JOBS = {
  demo: [['bin/anagnosis.js', 'demo']],
  verify: [
    ['node_modules/typescript/bin/tsc', '-p', '.'],
    ['node_modules/eslint/bin/eslint.js', '.', '--max-warnings=0'],
    ['node_modules/knip/bin/knip.js'],
    ['node_modules/prettier/bin/prettier.cjs', '--check', '--log-level=warn', '.'],
    ['scripts/schema.js', '--check'],
    ['scripts/rooms.js', '--check'],
    ['node_modules/vitest/vitest.mjs', 'run'],
  ],
  soak: [['scripts/soak.js']],
  bench: [['bench/bench.js']],
  mutants: [['scripts/mutants.js']],
  screenshots: [['scripts/screenshots.js']],
}

const job = process.argv[2] ?? ''
const steps = JOBS[job]
if (steps === undefined) {
  console.error(`usage: node scripts/with-set-up.js ${Object.keys(JOBS).join('|')}`)
  process.exit(2)
}

function run(command, args, shell = false) {
  const { status, error } = spawnSync(command, args, { stdio: 'inherit', shell })
  if (error) throw error
  if (status !== 0) process.exit(status ?? 1)
}

const modified = (path) => (existsSync(path) ? statSync(path).mtimeMs : 0)

function newest(path) {
  if (!statSync(path).isDirectory()) return modified(path)
  return Math.max(0, ...readdirSync(path).map((name) => newest(join(path, name))))
}

if (modified('node_modules/.package-lock.json') < modified('package-lock.json')) {
  console.error('Installing packages from the lock file …')
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], process.platform === 'win32')
}
if (
  modified('dist/program.cjs') <
  Math.max(newest('src'), modified('scripts/build.js'), modified('package.json'))
) {
  console.error('Building …')
  run(process.execPath, ['scripts/build.js'])
}
for (const [script, ...args] of steps) {
  if (job === 'verify')
    console.error(`\n> ${script.replace(/^node_modules\/([^/]+)\/.*/, '$1')} ${args.join(' ')}`)
  run(process.execPath, [script, ...args, ...(steps.length === 1 ? process.argv.slice(3) : [])])
}
if (job === 'verify')
  console.error('\nAll is well: types, lint, unused code, formatting, schemas, tests.')
