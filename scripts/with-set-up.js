// Does a job with all its set-up: packages from the lock file where they are missing or out of date,
// the build where the sources are newer than it, then the job itself. Fast the second time.
import { spawn, spawnSync } from 'node:child_process'
import { once } from 'node:events'
import { existsSync, readdirSync, statSync } from 'node:fs'
import { join } from 'node:path'

const JOBS = {
  demo: ['bin/anagnosis.js', 'demo'],
  verify: ['node_modules/vitest/vitest.mjs', 'run'],
  soak: ['scripts/soak.js'],
  bench: ['bench/bench.js'],
  mutants: ['scripts/mutants.js'],
  screenshots: ['scripts/screenshots.js'],
}

/** What verify does before its tests, all at once: each leaves a core idle for a while. */
const CHECKS = [
  ['node_modules/typescript/bin/tsc', '-p', '.'],
  ['node_modules/eslint/bin/eslint.js', '.', '--max-warnings=0'],
  ['node_modules/prettier/bin/prettier.cjs', '--check', '--log-level=warn', '.'],
  ['node_modules/knip/bin/knip.js'],
  ['scripts/schema.js', '--check'],
  ['scripts/rooms.js', '--check'],
]

const job = process.argv[2] ?? ''
const script = JOBS[job]
if (script === undefined) {
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
if (job === 'verify') {
  await check()
  run(process.execPath, script)
  console.error('\nAll is well: types, lint, unused code, formatting, schemas, tests.')
} else run(process.execPath, [...script, ...process.argv.slice(3)])

/** Runs the checks; the output of each is shown whole when it ends. */
async function check() {
  const all = CHECKS.map(async ([script, ...args]) => {
    const child = spawn(process.execPath, [script, ...args])
    const output = []
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (chunk) => output.push(chunk))
    const [code] = await once(child, 'close')
    const said = `${script.replace(/^node_modules\/([^/]+)\/.*/, '$1')} ${args.join(' ')}`
    console.error(
      `\n> ${said}${code === 0 ? '' : '   FAILED'}\n${Buffer.concat(output).toString()}`,
    )
    return code === 0
  })
  if (!(await Promise.all(all)).every(Boolean)) process.exit(1)
  console.error('> vitest run')
}
