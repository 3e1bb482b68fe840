// Builds the long runs of test/soak into one file and runs it with the arguments given.
import { spawnSync } from 'node:child_process'
import { build } from 'esbuild'

const outfile = 'dist/soak.mjs'
await build({
  entryPoints: ['test/soak/soak.ts'],
  outfile,
  bundle: true,
  format: 'esm',
  platform: 'node',
  target: 'node20',
  packages: 'external',
  logLevel: 'warning',
})
const { status } = spawnSync(process.execPath, [outfile, ...process.argv.slice(2)], {
  stdio: 'inherit',
})
process.exitCode = status ?? 1
