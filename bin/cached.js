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

/** What a bundle in dist/ exports, and what keeps its compiled code for later runs where that is missing. */
function load(name) {
  const filename = join(__dirname, '..', 'dist', `${name}.cjs`)
  const cacheFile = join(dirname(filename), `${name}.${process.version}-${process.arch}.cache`)
  const code = readFileSync(filename, 'latin1')
  const cachedData = readCache(cacheFile)
  const script = new Script(
    `(function (exports, require, module, __filename, __dirname) {${code}\n})`,
    { filename, cachedData },
  )
  const loaded = { exports: {} }
  script.runInThisContext()(
    loaded.exports,
    createRequire(filename),
    loaded,
    filename,
    dirname(filename),
  )
  const isKept = cachedData !== undefined && !script.cachedDataRejected
  const keep = () => {
    if (!isKept) writeCache(script, cacheFile)
  }
  return { exports: loaded.exports, keep }
}

module.exports = { load }
