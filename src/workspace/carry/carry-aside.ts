import { Worker } from 'node:worker_threads'
import type { FileReport } from '../../core/report/report.ts'
import type { FormatName } from '../../core/formats/index.ts'
import type { Triple } from '../../core/document/sides.ts'
import { triple } from '../../core/document/sides.ts'
import type { FileRule } from '../config/config.ts'
import type { FailureData } from '../failure.ts'
import { failureFrom } from '../failure.ts'
import { readBytes } from '../tree.ts'
import { carryFile } from './carry-file.ts'
import type { ResultWriter } from './output.ts'
import { NO_OUTPUT, Output } from './output.ts'

/** So many bytes of a text are carried in a thread of their own: till then nothing keeps signals and progress waiting. */
export const ASIDE_FROM = 4 << 20

/** So many megabytes a thread has for what it just made: with more it takes no less time, but more memory. */
const YOUNG = 16

/** One file that is carried by itself: all of it can be sent to a thread. */
export interface SingleJob {
  /** Where each input lies; undefined where there is none. */
  locations: Triple<string | undefined>
  path: string
  rule: FileRule | undefined
  format: FormatName | undefined
  oldUnknown: boolean
  explain: string | undefined
  /** Where the result is written for now; undefined where nothing is. */
  result: string | undefined
}

/** What a thread tells of one file. */
export type SingleAnswer = { report: FileReport } | { failure: FailureData }

/** Carries one file in this thread, and writes its result. */
export async function carrySingleFile(
  { locations, result, ...input }: SingleJob,
  output: ResultWriter = result === undefined ? NO_OUTPUT : Output.into(result),
): Promise<FileReport> {
  // nothing here keeps the bytes: they go as soon as they are text
  const carried = await carryFile({
    ...input,
    bytes: triple((side) => {
      const location = locations[side]
      return location === undefined ? undefined : readBytes(location)
    }),
  })
  if (carried.bytes !== undefined) output.file('', carried.bytes)
  return carried.report
}

/**
 * Carries one file in a thread of its own, so that this one can tell how it goes and hears when it is to end.
 *
 * @param entry the script that the thread runs
 * @throws what kept the thread from its work, and the signal's reason where that ends it
 */
export async function carryAside(
  entry: string,
  job: SingleJob,
  signal: AbortSignal | undefined,
): Promise<FileReport> {
  const worker = new Worker(entry, {
    workerData: { single: job },
    resourceLimits: { maxYoungGenerationSizeMb: YOUNG },
  })
  try {
    const answer = await new Promise<SingleAnswer>((resolve, reject) => {
      signal?.addEventListener('abort', () => {
        reject(signal.reason as Error)
      })
      worker.on('error', reject)
      worker.on('message', resolve)
    })
    if ('failure' in answer) throw failureFrom(answer.failure)
    return answer.report
  } finally {
    await worker.terminate()
  }
}
