// Loads the bundled program with V8's code cache, which saves compiling it at every start. The cache is
// made by the first run that may write it; where it is not taken (another Node) or cannot be written,
// the program is compiled as usual.
const { readFileSync, renameSync, rmSync, writeFileSync } = require('node:fs')
const { createRequire } = require('node:module')
const { dirname, join } = require('node:path')
const { Script } = require('node:vm')

const filename = join(__dirname, '..', 'dist', 'program.cjs')
const cacheFile = join(__dirname, '..', 'dist', `program.${process.version}-${process.arch}.cache`)

function readCache() {
  try {
    return readFileSync(cacheFile)
  } catch {
    return undefined
  }
}

/** Written beside its place and renamed, so that no other run reads half of it. */
function writeCache(script) {
  const temporary = `${cacheFile}.${process.pid}`
  try {
    writeFileSync(temporary, script.createCachedData())
    renameSync(temporary, cacheFile)
  } catch {
    rmSync(temporary, { force: true })
  }
}

const code = readFileSync(filename, 'latin1')
const cachedData = readCache()
const script = new Script(
  `(function (exports, require, module, __filename, __dirname) {${code}\n})`,
  {
    filename,
    cachedData,
  },
)
const loaded = { exports: {} }
script.runInThisContext()(
  loaded.exports,
  createRequire(filename),
  loaded,
  filename,
  dirname(filename),
)
module.exports = loaded.exports

if (cachedData === undefined || script.cachedDataRejected)
  process.once('exit', () => writeCache(script))
