import { parentPort, workerData } from 'node:worker_threads'
import type { CarryReport } from '../../core/report/report.ts'
import type { FolderContext } from './carry-entry.ts'
import { carryPair } from './carry-entry.ts'
import type { FailureData } from '../failure.ts'
import { failureData } from '../failure.ts'
import type { SingleAnswer, SingleJob } from './carry-aside.ts'
import { carrySingleFile } from './carry-aside.ts'
import type { FolderJob } from './folder-job.ts'
import { contextOf } from './folder-job.ts'
import type { ResultWriter } from './output.ts'
import { NO_OUTPUT, Output } from './output.ts'
import type { FilePair } from './pair-files.ts'

/** So many files are a task, which one thread takes on as a whole. */
const AT_ONCE = 25
/** So many bytes Node gets from the system at once, for the contents of many small files. */
const POOL = 1 << 19

/** How many tasks the files of a folder are. */
export function tasksOf(pairs: readonly FilePair[]): number {
  return Math.ceil(pairs.length / AT_ONCE)
}

/** All files of a folder, and the number of the next task, which is counted up by whoever takes it. */
export interface CrewTasks {
  pairs: readonly FilePair[]
  /** One number in memory that all threads share. */
  next: Int32Array
}

/** What a thread is sent. */
export interface CrewJob {
  job: FolderJob
  tasks: CrewTasks
}

/** What is to be told of one task. */
export interface DoneTask {
  task: number
  done: number
  report: CarryReport
}

/** What a thread tells: a task that it has done, the failure that ends it, or that no task is left. */
export type Answer = DoneTask | { failure: FailureData } | 'finished'

/**
 * Carries files as long as there are tasks that nobody has taken.
 *
 * @param tell told after each task
 * @param pause called before each file; ends the work where it throws
 */
export async function carryShare(
  { pairs, next }: CrewTasks,
  context: FolderContext,
  output: ResultWriter,
  tell: (done: DoneTask) => void,
  pause?: () => Promise<void>,
): Promise<void> {
  Buffer.poolSize = POOL
  for (;;) {
    const task = Atomics.add(next, 0, 1)
    const files = pairs.slice(task * AT_ONCE, (task + 1) * AT_ONCE)
    if (files.length === 0) return
    const report: CarryReport = { files: [], problems: [] }
    for (const pair of files) {
      await pause?.()
      await carryPair(context, output, pair, report)
    }
    tell({ task, done: files.length, report })
  }
}

/**
 * One thread of a crew: carries its share, and tells what came of it.
 *
 * @param atEnd called when all is done and before that is told, since then the thread may be ended
 */
export async function serveCrew(atEnd: () => void): Promise<void> {
  const sent = workerData as CrewJob | { single: SingleJob } // nothing else is sent
  if ('single' in sent) {
    parentPort?.postMessage(await singleAnswer(sent.single))
    return
  }
  const { job, tasks } = sent
  const output = job.folder === undefined ? NO_OUTPUT : Output.into(job.folder)
  const tell = (answer: Answer): void => parentPort?.postMessage(answer)
  try {
    await carryShare(tasks, contextOf(job, tasks.pairs), output, tell)
    atEnd()
    tell('finished')
  } catch (error) {
    tell({ failure: failureData(error) })
  }
}

async function singleAnswer(job: SingleJob): Promise<SingleAnswer> {
  try {
    return { report: await carrySingleFile(job) }
  } catch (error) {
    return { failure: failureData(error) }
  }
}
