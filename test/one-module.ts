import { mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs'
import { dirname, join, relative, resolve } from 'node:path'
import { pathToFileURL } from 'node:url'
import type { Plugin as BundlerPlugin } from 'esbuild'
import { build } from 'esbuild'
import type { Plugin } from 'vitest/config'

/** Where the modules are put, in the project, so that Node finds the packages that they import. */
const MADE = resolve('.made-tests')
/** In these the runner replaces modules. */
const BY_RUNNER = /vi\.mock\(/

/** Modules that Node loads itself. */
export const ONE_MODULES = /\.made-tests/

/**
 * Makes each test one module with all that it imports of ours, which Node loads by itself. Through the runner each
 * module is fetched, and each call from one to another is looked up: that takes a quarter of the time of a law.
 */
export const oneModule: Plugin = {
  name: 'one-module',
  enforce: 'pre',
  async load(id) {
    if (!id.endsWith('.test.ts') || BY_RUNNER.test(readFileSync(id, 'utf8'))) return undefined
    const outfile = join(MADE, relative(process.cwd(), id)).replace(/ts$/, 'mjs')
    const { outputFiles, metafile } = await build({
      entryPoints: [id],
      outfile,
      bundle: true,
      write: false,
      metafile: true,
      packages: 'external',
      platform: 'node',
      format: 'esm',
      sourcemap: 'inline',
      plugins: [ownUrls],
    })
    for (const input of Object.keys(metafile.inputs)) this.addWatchFile(resolve(input))
    mkdirSync(dirname(outfile), { recursive: true })
    // another run may read the module that stands there
    const temporary = `${outfile}.${process.pid}`
    for (const { contents } of outputFiles) writeFileSync(temporary, contents)
    renameSync(temporary, outfile)
    return `import ${JSON.stringify(pathToFileURL(outfile).href)}`
  },
}

/** Each file keeps its own `import.meta.url`. */
const ownUrls: BundlerPlugin = {
  name: 'own-urls',
  setup({ onLoad }) {
    onLoad({ filter: /[/\\]test[/\\].*\.tsx?$/ }, ({ path }) => ({
      contents: readFileSync(path, 'utf8').replaceAll(
        'import.meta.url',
        JSON.stringify(pathToFileURL(path).href),
      ),
      loader: path.endsWith('x') ? 'tsx' : 'ts',
    }))
  },
}
