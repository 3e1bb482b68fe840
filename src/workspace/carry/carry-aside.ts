import { Worker } from 'node:worker_threads'
import type { FormatName } from '../../core/formats/index.ts'
import type { Triple } from '../../core/document/sides.ts'
import { triple } from '../../core/document/sides.ts'
import type { FileRule } from '../config/config.ts'
import type { FailureData } from '../failure.ts'
import { failureFrom } from '../failure.ts'
import { readBytes } from '../tree.ts'
import { carryFile } from './carry-file.ts'
import type { CarriedFile } from './file-input.ts'

/** So many bytes of a text are carried in a thread of their own: till then nothing keeps signals and progress waiting. */
export const ASIDE_FROM = 4 << 20

/** One file that is carried by itself: all of it can be sent to a thread. */
export interface SingleJob {
  /** Where each input lies; undefined where there is none. */
  locations: Triple<string | undefined>
  path: string
  rule: FileRule | undefined
  format: FormatName | undefined
  oldUnknown: boolean
  explain: string | undefined
}

/** What a thread tells of one file. */
export type SingleAnswer = { carried: CarriedFile } | { failure: FailureData }

/** Carries one file in this thread. */
export function carrySingleFile({ locations, ...input }: SingleJob): Promise<CarriedFile> {
  const bytes = triple((side) => {
    const location = locations[side]
    return location === undefined ? undefined : readBytes(location)
  })
  return carryFile({ ...input, bytes })
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
): Promise<CarriedFile> {
  const worker = new Worker(entry, { workerData: { single: job } })
  try {
    const answer = await new Promise<SingleAnswer>((resolve, reject) => {
      signal?.addEventListener('abort', () => {
        reject(signal.reason as Error)
      })
      worker.on('error', reject)
      worker.on('message', resolve)
    })
    if ('failure' in answer) throw failureFrom(answer.failure)
    const { report, bytes } = answer.carried
    // what was sent has lost that it is a Buffer
    return { report, bytes: bytes === undefined ? undefined : Buffer.from(bytes.buffer) }
  } finally {
    await worker.terminate()
  }
}
