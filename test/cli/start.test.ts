import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from 'vitest'
import { ROOT, Workplace } from './program.ts'

/** Run before the program: tells at its end what was loaded for it, and what asked for a language's rules. */
const PROBE = `
const fs = require('node:fs')
const { basename } = require('node:path')
const { Module } = require('node:module')
const used = new Set()
const watch = (owner, name) => {
  const method = owner[name]
  owner[name] = function (...given) { used.add(name); return Reflect.apply(method, this, given) }
}
watch(String.prototype, 'localeCompare')
watch(Number.prototype, 'toLocaleString')
const { readFileSync, writeFileSync } = fs
const read = new Set()
fs.readFileSync = (...given) => { read.add(basename(String(given[0]))); return readFileSync(...given) }
const { Segmenter } = Intl
Intl.Segmenter = class extends Segmenter { constructor() { super(); used.add('Segmenter') } }
const before = new Set(process.moduleLoadList)
process.on('exit', () => {
  const builtin = process.moduleLoadList.filter((each) => !before.has(each)).map((each) => each.replace(/^.* /, ''))
  const files = Object.keys(Module._cache).map((each) => basename(each))
  writeFileSync('loaded.json', JSON.stringify([...new Set([...builtin, ...files, ...read, ...used])]))
})`

const COSTLY = [
  ...['child_process', 'crypto', 'perf_hooks', 'v8', 'worker_threads'],
  ...['settle-screen.mjs', 'proper-lockfile.cjs', 'string-width.cjs', 'tar.cjs', 'yazl.cjs'],
  ...['write-file-atomic.cjs', 'yaml.cjs', 'yauzl.cjs', 'zod.cjs', 'ejs.js', 'index.js'],
  ...['localeCompare', 'toLocaleString', 'Segmenter'],
]

/** What is loaded for a carry in which all three differ in one value, or in which mine alone does. */
function loaded(key: string, isConflict: boolean): string[] {
  const place = new Workplace({
    'probe.cjs': PROBE,
    'old.ini': `[lamp]\n${key} = 1\n`,
    'new.ini': `[lamp]\n${key} = ${isConflict ? 2 : 1}\ntilt = 2\n`,
    'mine.ini': `[lamp]\n${key} = 3\n`,
  })
  const files = ['--old', 'old.ini', '--new', 'new.ini', '--mine', 'mine.ini', '--out', 'out.ini']
  const { code, err } = place.run(['carry', ...files], {
    NODE_OPTIONS: `--require "${place.path('probe.cjs').replaceAll('\\', '/')}"`,
  })
  expect([code, err]).toEqual([isConflict ? 1 : 0, ''])
  return JSON.parse(place.read('loaded.json')) as string[]
}

test('a carry of three files loads what it needs and nothing else', () => {
  expect(loaded('range', false).filter((each) => COSTLY.includes(each))).toEqual([])
})

test('hashes are loaded for a conflict, and tables of Unicode for a key of another script', () => {
  const costly = loaded('射程', true).filter((each) => COSTLY.includes(each))
  expect(costly).toEqual(['crypto', 'string-width.cjs', 'Segmenter'])
})

const { engines } = JSON.parse(readFileSync(join(ROOT, 'package.json'), 'utf8')) as {
  engines: { node: string }
}
const needs = `anagnosis needs Node ${engines.node.replace('>=', '')} or newer`

test.each([
  ['18.20.4', 5, `${needs}, and this is Node 18.20.4\n`],
  ['20.9.0', 5, `${needs}, and this is Node 20.9.0\n`],
  ['20.19.0', 0, ''],
  ['24.1.0', 0, ''],
])('Node %s is told to be too old, or starts the program', (node, exit, told) => {
  const versions = JSON.stringify({ ...process.versions, node })
  const place = new Workplace({
    'older.cjs': `Object.defineProperty(process, 'versions', { value: ${versions} })`,
  })
  const { code, out, err } = place.run(['--version'], {
    NODE_OPTIONS: `--require "${place.path('older.cjs').replaceAll('\\', '/')}"`,
  })
  expect([code, err.slice(0, told.length), out === '']).toEqual([exit, told, exit !== 0])
})
