import { lstatSync } from 'node:fs'
import type { LocatedProblem } from '../../core/report/report.ts'
import { fileProblem } from '../../core/report/report.ts'
import { readTree } from '../tree.ts'
import type { Variant } from '../workspace.ts'

/** When the newest file of a folder was written; undefined where it holds none. */
export function newestFile(folder: string): Date | undefined {
  const times = [...readTree(folder).values()]
    .filter(({ kind }) => kind === 'file')
    .map(({ location }) => lstatSync(location).mtimeMs)
  return times.length === 0 ? undefined : new Date(times.reduce((a, b) => Math.max(a, b)))
}

/** How old the download is that stands for a host's files: what was changed there since is not known. */
export function downloadNotes({ name, upload, location }: Variant): LocatedProblem[] {
  if (upload !== true) return []
  const newest = newestFile(location)
  const age = newest === undefined ? 'it holds no files' : `its newest file is of ${dayOf(newest)}`
  return [
    fileProblem('', {
      severity: 'note',
      code: 'variant/download',
      message: `the folder of ${name} is a download: ${age}; what was changed on the host since is not in it`,
    }),
  ]
}

function dayOf(time: Date): string {
  return time.toISOString().slice(0, 16).replace('T', ' ')
}
