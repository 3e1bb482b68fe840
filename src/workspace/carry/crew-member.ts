import { parentPort, workerData } from 'node:worker_threads'
import type { CarryReport } from '../../core/carry/report.ts'
import { carryPair } from './carry-entry.ts'
import type { Failure } from '../failure.ts'
import { asFailure } from '../failure.ts'
import type { FolderJob } from './folder-job.ts'
import { contextOf } from './folder-job.ts'
import { NO_OUTPUT, Output } from './output.ts'
import type { FilePair } from './pair-files.ts'

/** Files to carry. */
export type Task = FilePair[]

/** What came of a task, or what kept it from being done. */
export type Answer =
  { report: CarryReport; done: number } | { failure: Pick<Failure, 'code' | 'message' | 'details'> }

/** One thread of a crew: carries the files that it is given, and tells what came of them. */
export function serveCrew(): void {
  const job = workerData as FolderJob // the crew sends nothing else
  const context = contextOf(job)
  const output = job.folder === undefined ? NO_OUTPUT : Output.into(job.folder)
  parentPort?.on('message', (task: Task) => {
    const report: CarryReport = { files: [], problems: [] }
    const answer = async (): Promise<Answer> => {
      try {
        for (const pair of task) await carryPair(context, output, pair, report)
        return { report, done: task.length }
      } catch (error) {
        const { code, message, details } = asFailure(error)
        return { failure: { code, message, details: { ...details, cause: undefined } } }
      }
    }
    void answer().then((told) => parentPort?.postMessage(told))
  })
}
