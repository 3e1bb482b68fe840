/*
 * Long runs: random documents and folders against the laws, and random bytes against the readers, for
 * as long as is asked. What fails is shrunk and written as a folder that can become a case.
 *
 *   npm run soak -- --minutes 60 [--seed N] [--fuzz COUNT] [--kills COUNT] [--only WORD] [--out FOLDER]
 */
import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { parseArgs } from 'node:util'
import fc from 'fast-check'
import type { FormatName } from '../../src/core/formats/index.ts'
import { FORMAT_NAMES } from '../../src/core/formats/index.ts'
import type { Law, Texts } from '../core/laws/laws.ts'
import { lawsOf, lawsOfJudgement } from '../core/laws/laws.ts'
import { expectListLaws, LONG, SHORT } from '../core/laws/list-laws.ts'
import type { Family, List } from '../core/laws/lists.ts'
import { canHold, FAMILIES, listStory, written } from '../core/laws/lists.ts'
import { renderers, sharedIdentity, withoutIdentity } from '../core/laws/render.ts'
import { editedText, textEdits } from '../core/laws/text-edits.ts'
import { beginnings, checkDocuments } from './documents.ts'
import { checkFolders, sketches } from './folders.ts'
import { checkReading, mutated } from './fuzz.ts'
import { Kills } from './kills.ts'

const { values } = parseArgs({
  options: {
    minutes: { type: 'string', default: '5' },
    seed: { type: 'string', default: String(Date.now() % 1_000_000_000) },
    fuzz: { type: 'string', default: '0' },
    kills: { type: 'string', default: '20' },
    only: { type: 'string', default: '' },
    out: { type: 'string', default: 'soak-cases' },
    demo: { type: 'string', default: 'demo/data' },
  },
})

interface Trial {
  name: string
  format: FormatName | 'folder'
  runs: number
  /** Tries it `runs` times from a seed; gives what failed. */
  run: (seed: number) => Promise<Failed | undefined>
}

interface Failed {
  message: string
  texts: Texts | undefined
}

function lawTrial(format: FormatName, sort: string, { name, property, texts }: Law): Trial {
  const runs = 60
  return {
    name: `${format} with ${sort}: ${name}`,
    format,
    runs,
    run(seed) {
      const { failed, counterexample, errorInstance } = fc.check(property, { seed, numRuns: runs })
      if (!failed || counterexample === null) return Promise.resolve(undefined)
      return Promise.resolve({ message: messageOf(errorInstance), texts: texts(...counterexample) })
    },
  }
}

function documentTrial(format: FormatName, starts: readonly string[]): Trial {
  const runs = 100
  const story = fc.tuple(fc.constantFrom(...starts), textEdits, textEdits)
  const texts = ([old, fresh, mine]: [
    string,
    Parameters<typeof editedText>[1],
    Parameters<typeof editedText>[1],
  ]): Texts => [
    old,
    editedText(old, fresh, format, 'vanilla'),
    editedText(old, mine, format, 'harbour'),
  ]
  return {
    name: `${format}: edits of lines`,
    format,
    runs,
    run(seed) {
      const property = fc.property(story, (told) => {
        checkDocuments(texts(told), format)
      })
      const { failed, counterexample, errorInstance } = fc.check(property, { seed, numRuns: runs })
      if (!failed || counterexample === null) return Promise.resolve(undefined)
      return Promise.resolve({
        message: messageOf(errorInstance),
        texts: texts(counterexample[0]),
      })
    },
  }
}

/** Lists of one family, short and long, whose entries the oracle knows. */
function listTrial(format: FormatName, family: Family): Trial {
  const runs = 60
  return {
    name: `${format}: lists of ${family.name}`,
    format,
    runs,
    run(seed) {
      const next = numbers(seed)
      for (let i = 0; i < runs; i++) {
        const story = Math.floor(next() * 2 ** 31)
        const extent = i % 20 === 0 ? LONG : SHORT
        try {
          expectListLaws(family, format, story, extent)
        } catch (error) {
          const { old, fresh, mine } = listStory(story, family, extent)
          const text = (list: List): string => written(list, format)
          const texts: Texts = [text(old), text(fresh), text(mine)]
          return Promise.resolve({ message: messageOf(error), texts })
        }
      }
      return Promise.resolve(undefined)
    },
  }
}

const folderTrial: Trial = {
  name: 'folders',
  format: 'folder',
  runs: 15,
  async run(seed) {
    const property = fc.asyncProperty(sketches, checkFolders)
    const { failed, counterexample, errorInstance } = await fc.check(property, {
      seed,
      numRuns: this.runs,
    })
    if (!failed || counterexample === null) return undefined
    const shown = `${messageOf(errorInstance)}\n${JSON.stringify(counterexample[0], null, 1)}`
    return { message: shown, texts: undefined }
  },
}

function messageOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error)
}

function numbers(seed: number): () => number {
  let state = seed
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296
  }
}

let failures = 0

function keep(name: string, seed: number, format: string, failed: Failed): void {
  failures++
  const folder = join(values.out, `${name.replace(/\W+/g, '-').slice(0, 60)}-${seed}`)
  mkdirSync(folder, { recursive: true })
  writeFileSync(join(folder, 'what.txt'), `${name}\nseed ${seed}\n${failed.message}\n`)
  for (const [i, side] of (['old', 'new', 'mine'] as const).entries())
    if (failed.texts !== undefined)
      writeFileSync(join(folder, `${side}.${format}`), failed.texts[i] ?? '')
  console.log(
    `FAILED ${name}, seed ${seed}: ${failed.message.split('\n')[0] ?? ''}\n  see ${folder}`,
  )
}

async function soak(minutes: number, seed: number): Promise<void> {
  const starts = beginnings(values.demo)
  const all: Trial[] = [
    ...renderers.flatMap((r) => lawsOf(r).map((law) => lawTrial(r.name, 'identities', law))),
    ...withoutIdentity.flatMap((r) =>
      lawsOfJudgement(r).map((law) => lawTrial(r.name, 'no identity', law)),
    ),
    ...sharedIdentity.flatMap((r) =>
      lawsOfJudgement(r).map((law) => lawTrial(r.name, 'shared identities', law)),
    ),
    ...FORMAT_NAMES.flatMap((format) =>
      FAMILIES.filter((family) => canHold(format, family)).map((family) =>
        listTrial(format, family),
      ),
    ),
    ...FORMAT_NAMES.map((format) => documentTrial(format, starts[format])),
    folderTrial,
  ].filter(({ name }) => name.includes(values.only))
  const counts = new Map<string, number>()
  const stop = performance.now() + minutes * 60_000
  let cases = 0
  for (let round = 0; performance.now() < stop && all.length > 0; round++) {
    const trial = all[round % all.length]
    if (trial === undefined) break
    const at = seed + round
    const failed = await trial.run(at)
    cases += trial.runs
    counts.set(trial.name, (counts.get(trial.name) ?? 0) + trial.runs)
    if (failed !== undefined) keep(trial.name, at, trial.format, failed)
  }
  for (const [name, count] of counts) console.log(`${String(count).padStart(9)}  ${name}`)
  console.log(`${String(cases).padStart(9)}  cases in ${minutes} minutes from seed ${seed}`)
}

function fuzz(count: number, seed: number): void {
  const starts = beginnings(values.demo)
  const next = numbers(seed)
  for (let i = 0; i < count; i++) {
    const format = FORMAT_NAMES[i % FORMAT_NAMES.length] ?? 'xml'
    const texts = starts[format]
    const from = texts[Math.floor(next() * texts.length)] ?? ''
    const short = Buffer.from(from).subarray(0, 200 + Math.floor(next() * 600))
    const bytes = mutated(next() < 0.5 ? Buffer.from(from).subarray(0, 3000) : short, next)
    try {
      checkReading(bytes, format)
    } catch (error) {
      keep(`fuzz ${format}`, seed + i, format, { message: messageOf(error), texts: undefined })
      writeFileSync(join(values.out, `fuzz-${format}-${seed + i}`, `input.${format}`), bytes)
    }
    if (failures > 50) break
  }
  const memory = Math.round(process.memoryUsage().rss / 1e6)
  console.log(
    `${String(count).padStart(9)}  inputs for the readers from seed ${seed}; ${memory} MB in use`,
  )
}

/** Kills deliveries of the built program at random moments. */
async function kill(count: number, seed: number): Promise<void> {
  const kills = new Kills()
  const next = numbers(seed)
  for (let i = 0; i < count; i++) {
    const message = await kills.kill(next)
    if (message !== undefined)
      keep('killed deliveries', seed + i, 'ini', { message, texts: undefined })
  }
  kills.end()
  console.log(`${String(count).padStart(9)}  killed deliveries: ${JSON.stringify(kills.counts)}`)
}

const seed = Number(values.seed)
if (Number(values.kills) > 0) await kill(Number(values.kills), seed)
if (Number(values.fuzz) > 0) fuzz(Number(values.fuzz), seed)
if (Number(values.minutes) > 0) await soak(Number(values.minutes), seed)
console.log(failures === 0 ? 'All held.' : `${failures} did not hold; they are in ${values.out}`)
process.exitCode = failures === 0 ? 0 : 1
