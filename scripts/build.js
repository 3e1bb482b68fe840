// Bundles src/ into dist/program.cjs, which bin/ runs with V8's code cache beside it, also in threads.
import assert from 'node:assert/strict'
import { readFile, rm, writeFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { build } from 'esbuild'

/** Packages that only some runs need: each is a file of its own, and loaded when it is asked for. */
const APART = {
  zod: 'zod',
  'string-width': 'string-width',
  yaml: 'yaml',
  yauzl: 'yauzl',
  yazl: 'yazl',
  tar: 'tar',
  'write-file-atomic': 'write-file-atomic',
  'proper-lockfile': 'proper-lockfile',
}

/** What stands in the place of packages that every run imports and few use: most load them when they are called. */
const WHEN_CALLED = {
  'string-width': 'module.exports = (text) => require("string-width").default(text)',
  // asked at every start whether this is Linux inside of Windows, for a name that nothing uses here
  'wsl-utils': 'exports.isWsl = false; exports.powerShellPath = async () => "powershell.exe"',
  ejs: 'exports.render = (...given) => require("ejs").render(...given)',
  ...Object.fromEntries(
    ['child_process', 'crypto', 'os', 'perf_hooks', 'readline', 'v8', 'worker_threads'].map(
      (part) => [`node:${part}`, gettersFor(`node:${part}`)],
    ),
  ),
}

/** A module with the names of one of Node's own, which is loaded when one of them is asked for. */
function gettersFor(name) {
  const names = Object.keys(createRequire(import.meta.url)(name))
  return `module.exports = { ${names.map((each) => `get ${each}() { return require("${name}").${each} }`).join(', ')} }`
}

/** oclif sorts its commands by a language's rules at every start; their names are ASCII, and the rules take long to load. */
const SORTS = { from: 'a.id.localeCompare(b.id)', to: '(a.id < b.id ? -1 : 1)' }

async function withoutLanguage({ path }) {
  const code = await readFile(path, 'utf8')
  assert(
    code.includes(SORTS.from),
    `${path} sorts in another way now: look whether this is still needed`,
  )
  return { contents: code.replace(SORTS.from, SORTS.to) }
}

const shared = {
  outdir: 'dist',
  outExtension: { '.js': '.cjs' },
  bundle: true,
  format: 'cjs',
  platform: 'node',
  target: 'node20',
  minify: true,
  legalComments: 'none',
  // a script that is run with a code cache has no import(): what is loaded later is required later
  supported: { 'dynamic-import': false },
  logLevel: 'warning',
}
const oneOf = (names) => new RegExp(`^(${names.join('|')})$`)

await rm('dist', { recursive: true, force: true })
await build({
  ...shared,
  entryPoints: Object.fromEntries(Object.entries(APART).map(([name, file]) => [file, name])),
  plugins: [
    {
      // the messages of zod in fifty languages, of which English alone is used, and is imported by itself
      name: 'without-languages',
      setup({ onLoad }) {
        onLoad({ filter: /zod.v4.locales.index\.\w+$/ }, () => ({ contents: '' }))
      },
    },
  ],
})
await build({
  ...shared,
  entryPoints: { program: 'src/cli.ts' },
  plugins: [
    {
      name: 'apart',
      setup({ onResolve, onLoad }) {
        onResolve({ filter: oneOf(Object.keys(WHEN_CALLED)) }, ({ path, namespace }) =>
          namespace === 'when-called' ? undefined : { path, namespace: 'when-called' },
        )
        onLoad({ filter: /./, namespace: 'when-called' }, ({ path }) => ({
          contents: WHEN_CALLED[path],
        }))
        onLoad({ filter: /oclif.core.lib.config.plugin\.js$/ }, withoutLanguage)
        onResolve({ filter: oneOf(Object.keys(APART)) }, ({ path }) => ({
          path: `./${APART[path]}.cjs`,
          external: true,
        }))
      },
    },
  ],
  // what few runs need and is big stays where npm puts the packages
  external: ['typescript', 'ts-node', 'ejs', 'iconv-lite', '@inquirer/prompts'],
  // What oclif loads at every start for its own debugging and its themes, which this program does not use.
  alias: { debug: './scripts/no-debug.cjs', 'supports-color': './scripts/no-debug.cjs' },
  banner: { js: "const __filename_url=require('node:url').pathToFileURL(__filename).href;" },
  define: { 'import.meta.url': '__filename_url' },
})

// The full-screen settle: its packages are ES modules that cannot be required.
await build({
  entryPoints: ['src/screen/settle-screen.ts'],
  outfile: 'dist/settle-screen.mjs',
  bundle: true,
  format: 'esm',
  platform: 'node',
  target: 'node20',
  minify: true,
  legalComments: 'none',
  packages: 'external',
  logLevel: 'warning',
})

// What is all ASCII is read as one byte a character, which is faster; regular expressions are left with a few others.
const escaped = (character) => `\\u${character.charCodeAt(0).toString(16).padStart(4, '0')}`
for (const name of ['program', ...Object.values(APART)]) {
  const file = `dist/${name}.cjs`
  const code = await readFile(file, 'utf8')
  await writeFile(file, code.replace(/[^\0-\x7f]/g, escaped))
}
