import { availableParallelism } from 'node:os'
import { Worker } from 'node:worker_threads'
import type { CarryReport } from '../../core/carry/report.ts'
import type { Answer, Task } from './crew-member.ts'
import { Failure } from '../failure.ts'
import type { FolderJob } from './folder-job.ts'
import type { FilePair } from './pair-files.ts'

/** From this many files on a crew is worth its start. */
export const CREW_FROM = 1000
/** So many files are given to a thread at once. */
const AT_ONCE = 25
const MOST_THREADS = 8

export interface CrewWork {
  /** The script that a thread runs. */
  entry: string
  job: FolderJob
  pairs: readonly FilePair[]
  report: CarryReport
  signal?: AbortSignal | undefined
  progress?: ((done: number, total: number) => void) | undefined
}

/**
 * Carries the files of a folder in as many threads as the machine has cores. Each reads, merges and
 * writes its files and sends what is to be told of them.
 *
 * @throws what a thread met first; then all threads have ended
 */
export async function carryByCrew(work: CrewWork): Promise<void> {
  const { entry, job, pairs, report, signal, progress } = work
  const told: CarryReport[] = []
  let next = 0
  let done = 0
  const threads = Math.min(availableParallelism(), MOST_THREADS, Math.ceil(pairs.length / AT_ONCE))
  const crew = Array.from(
    { length: threads },
    () => new Worker(entry, { workerData: job, resourceLimits: { maxYoungGenerationSizeMb: 64 } }),
  )
  const run = (worker: Worker): Promise<void> =>
    new Promise((resolve, reject) => {
      let task = 0
      const give = (): void => {
        task = next++
        const files: Task = pairs.slice(task * AT_ONCE, (task + 1) * AT_ONCE)
        if (files.length === 0) resolve()
        else worker.postMessage(files)
      }
      signal?.addEventListener('abort', () => {
        reject(signal.reason as Error)
      })
      worker.on('error', reject)
      worker.on('message', (answer: Answer) => {
        if ('failure' in answer) {
          const { code, message, details } = answer.failure
          reject(new Failure(code, message, details))
          return
        }
        told[task] = answer.report
        done += answer.done
        progress?.(done, pairs.length)
        give()
      })
      give()
    })
  try {
    signal?.throwIfAborted()
    await Promise.all(crew.map(run))
  } finally {
    await Promise.all(crew.map((worker) => worker.terminate()))
  }
  // in the order of the files, whichever thread was faster
  for (const { files, problems } of told) {
    report.files.push(...files)
    report.problems.push(...problems)
  }
}
