// Runs whole processes and measures them: time, and the most memory they held.
import { spawnSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'

export const entry = fileURLToPath(new URL('../bin/anagnosis.js', import.meta.url))
const peakModule = new URL('./peak.js', import.meta.url).href

/** Milliseconds that a Node process takes from start to end. */
export function timeOf(args, folder) {
  const start = process.hrtime.bigint()
  const { status, stderr } = spawnSync(process.execPath, args, {
    cwd: folder,
    stdio: ['ignore', 'ignore', 'pipe'],
  })
  if (status !== 0 && status !== 1)
    throw new Error(`${args.join(' ')} ended with ${status}: ${stderr.toString().slice(0, 500)}`)
  return Number(process.hrtime.bigint() - start) / 1e6
}

/** The most bytes of memory that a Node process held. */
export function peakOf(args, folder) {
  const file = `${folder}/peak.txt`
  timeOf(['--import', peakModule, ...args], folder)
  return Number(readFileSync(file, 'utf8')) * 1024
}

export function median(values) {
  return [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0
}

/**
 * Two commands in turn, once to warm up and then `pairs` times: the median ratio and the median times.
 * The first is made anew for each run: a run that has to remove what the run before wrote would measure
 * how the file system deals with that.
 */
export function compare(program, reference, pairs, folder) {
  const times = Array.from({ length: pairs + 1 }, () => [
    timeOf(program(), folder),
    timeOf(reference, folder),
  ]).slice(1)
  return {
    ratio: median(times.map(([a, b]) => a / b)),
    program: median(times.map(([a]) => a)),
    reference: median(times.map(([, b]) => b)),
  }
}

let runs = 0

/** The arguments of a carry of `old`, `new` and `mine` in the folder, with its report as JSON. */
export function carryOf(extension = '') {
  const sides = ['old', 'new', 'mine'].flatMap((side) => [`--${side}`, `${side}${extension}`])
  return [entry, 'carry', ...sides, '--out', `out-${++runs}${extension}`, '--json']
}
