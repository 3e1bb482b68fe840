// Loads bundled code with V8's code cache, which saves compiling it at every start. The cache is made by
// the first run that may write it; where it is not taken (another Node) or cannot be written, the code
// is compiled as usual.
const { readFileSync, renameSync, rmSync, writeFileSync } = require('node:fs')
const { createRequire } = require('node:module')
const { dirname, join } = require('node:path')
const { Script } = require('node:vm')

function readCache(file) {
  try {
    return readFileSync(file)
  } catch {
    return undefined
  }
}

/** Written beside its place and renamed, so that no other run reads half of it. */
function writeCache(script, file) {
  const { threadId } = require('node:worker_threads')
  const temporary = `${file}.${process.pid}.${threadId}`
  try {
    writeFileSync(temporary, script.createCachedData())
    renameSync(temporary, file)
  } catch {
    rmSync(temporary, { force: true })
  }
}

/** What a bundle requires of its own: another one beside it. */
const BESIDE = /^\.\/([\w-]+)\.cjs$/

/** Each bundle that was loaded, by name. */
const bundles = new Map()

/** What a bundle in dist/ exports. The bundles that it requires come with their compiled code as well. */
function load(name) {
  const known = bundles.get(name)
  if (known !== undefined) return known.exports
  const filename = join(__dirname, '..', 'dist', `${name}.cjs`)
  const cacheFile = join(dirname(filename), `${name}.${process.version}-${process.arch}.cache`)
  const code = readFileSync(filename, 'latin1')
  const cachedData = readCache(cacheFile)
  const script = new Script(
    `(function (exports, require, module, __filename, __dirname) {${code}\n})`,
    { filename, cachedData },
  )
  const isKept = cachedData !== undefined && !script.cachedDataRejected
  const bundle = { exports: {}, script, cacheFile, isKept }
  bundles.set(name, bundle)
  const ordinary = createRequire(filename)
  const required = Object.assign((id) => {
    const beside = BESIDE.exec(id)
    return beside === null ? ordinary(id) : load(beside[1])
  }, ordinary)
  script.runInThisContext()(bundle.exports, required, bundle, filename, dirname(filename))
  return bundle.exports
}

/** Keeps the compiled code of all that was loaded for later runs, where that is missing. */
function keep() {
  for (const { script, cacheFile, isKept } of bundles.values())
    if (!isKept) writeCache(script, cacheFile)
}

module.exports = { load, keep }
