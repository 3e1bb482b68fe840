import { availableParallelism } from 'node:os'
import { Worker } from 'node:worker_threads'
import type { CarryReport } from '../../core/report/report.ts'
import { breathe } from '../breathe.ts'
import { failureFrom } from '../failure.ts'
import type { Answer, CrewJob, CrewTasks, DoneTask } from './crew-member.ts'
import { carryShare, tasksOf } from './crew-member.ts'
import type { FolderJob } from './folder-job.ts'
import { contextOf } from './folder-job.ts'
import type { ResultWriter } from './output.ts'
import type { FilePair } from './pair-files.ts'

/** From this many files on a crew is worth its start. */
export const CREW_FROM = 1000
const MOST_THREADS = 8

export interface CrewWork {
  /** The script that a thread runs. */
  entry: string
  job: FolderJob
  pairs: readonly FilePair[]
  output: ResultWriter
  report: CarryReport
  signal?: AbortSignal | undefined
  progress?: ((done: number, total: number) => void) | undefined
  /** Whether this thread takes no share, so that it always hears when it is to end. */
  staysFree: boolean
}

/**
 * Carries the files of a folder in as many threads as the machine has cores, this one among them. Each
 * reads, merges and writes files as long as there are any, and tells what is to be told of them.
 *
 * @throws what a thread met first; then all threads have ended
 */
export async function carryByCrew(work: CrewWork): Promise<void> {
  const { entry, job, pairs, output, report, signal, progress, staysFree } = work
  const tasks: CrewTasks = { pairs, next: new Int32Array(new SharedArrayBuffer(4)) }
  const told: CarryReport[] = []
  let count = 0
  const take = ({ task, done, report: ofTask }: DoneTask): void => {
    told[task] = ofTask
    count += done
    progress?.(count, pairs.length)
  }
  const threads = Math.min(availableParallelism(), MOST_THREADS)
  const others = staysFree ? Math.min(threads, tasksOf(pairs)) : threads - 1
  const workerData: CrewJob = { job, tasks }
  const resourceLimits = { maxYoungGenerationSizeMb: 64 }
  const crew = Array.from(
    { length: others },
    () => new Worker(entry, { workerData, ...(staysFree ? {} : { resourceLimits }) }),
  )
  let hasFailed = false
  const pause = async (): Promise<void> => {
    await breathe()
    signal?.throwIfAborted()
    if (hasFailed) throw new Error('another thread failed') // whose failure is thrown before this one
  }
  try {
    const answers = Promise.all(crew.map((worker) => answersOf(worker, take, signal)))
    answers.catch(() => {
      hasFailed = true
    })
    const own = staysFree
      ? undefined
      : carryShare(tasks, contextOf(job, pairs), output, take, pause)
    await Promise.all([answers, own])
  } finally {
    await Promise.all(crew.map((worker) => worker.terminate()))
  }
  // in the order of the files, whichever thread was faster
  for (const { files, problems } of told) {
    report.files.push(...files)
    report.problems.push(...problems)
  }
}

/** Takes what a thread has done until it has finished. */
function answersOf(
  worker: Worker,
  take: (done: DoneTask) => void,
  signal: AbortSignal | undefined,
): Promise<void> {
  return new Promise((resolve, reject) => {
    signal?.addEventListener('abort', () => {
      reject(signal.reason as Error)
    })
    worker.on('error', reject)
    worker.on('message', (answer: Answer) => {
      if (answer === 'finished') resolve()
      else if ('failure' in answer) {
        reject(failureFrom(answer.failure))
      } else take(answer)
    })
  })
}
