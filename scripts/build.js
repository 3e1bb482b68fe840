// Bundles src/ into dist/program.cjs, and dist/crew-member.cjs for threads, which bin/ runs with V8's code
// cache beside them.
import { readFile, rm, writeFile } from 'node:fs/promises'
import { build } from 'esbuild'

/** Packages that only some runs need: each is a file of its own, and loaded when it is asked for. */
const APART = {
  zod: 'zod',
  yaml: 'yaml',
  'iconv-lite': 'iconv-lite',
  yauzl: 'yauzl',
  tar: 'tar',
  'write-file-atomic': 'write-file-atomic',
  'proper-lockfile': 'proper-lockfile',
  '@inquirer/prompts': 'prompts',
}

const shared = {
  outdir: 'dist',
  outExtension: { '.js': '.cjs' },
  bundle: true,
  format: 'cjs',
  platform: 'node',
  target: 'node20',
  minifySyntax: true,
  minifyWhitespace: true,
  legalComments: 'none',
  // a script that is run with a code cache has no import(): what is loaded later is required later
  supported: { 'dynamic-import': false },
  logLevel: 'warning',
}
await rm('dist', { recursive: true, force: true })
await build({
  ...shared,
  entryPoints: Object.fromEntries(Object.entries(APART).map(([name, file]) => [file, name])),
})
await build({
  ...shared,
  entryPoints: { program: 'src/cli.ts', 'crew-member': 'src/workspace/carry/crew-member.ts' },
  plugins: [
    {
      name: 'apart',
      setup({ onResolve }) {
        const filter = new RegExp(`^(${Object.keys(APART).join('|')})$`)
        onResolve({ filter }, ({ path }) => ({ path: `./${APART[path]}.cjs`, external: true }))
      },
    },
  ],
  external: ['typescript', 'ts-node', 'ejs'],
  // What oclif loads at every start for its own debugging and its themes, which this program does not use.
  alias: { debug: './scripts/no-debug.cjs', 'supports-color': './scripts/no-debug.cjs' },
  banner: { js: "const __filename_url=require('node:url').pathToFileURL(__filename).href;" },
  define: { 'import.meta.url': '__filename_url' },
})

// What is all ASCII is read as one byte a character, which is faster; regular expressions are left with a few others.
const escaped = (character) => `\\u${character.charCodeAt(0).toString(16).padStart(4, '0')}`
// Hashing is loaded when something is hashed: a carry without conflicts hashes nothing.
const LAZY = "{get createHash(){return require('node:crypto').createHash}}"
for (const name of ['program', 'crew-member']) {
  const file = `dist/${name}.cjs`
  const code = await readFile(file, 'utf8')
  await writeFile(
    file,
    code.replace(/[^\0-\x7f]/g, escaped).replaceAll('=require("node:crypto")', `=${LAZY}`),
  )
}
