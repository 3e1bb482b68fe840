import type { CarryReport, LocatedProblem } from '../../core/report/report.ts'
import { fileProblem } from '../../core/report/report.ts'
import type { Remembered } from '../../core/report/remembered.ts'
import { shortList } from '../../core/document/short-list.ts'
import type { Mine, ResetFile } from './mine.ts'

/** What there is to say of files for which a kept copy stands. */
export function resetNotes(reset: readonly ResetFile[]): LocatedProblem[] {
  return reset.map(({ path, kept: { backup } }) =>
    fileProblem(path, {
      severity: 'warning',
      code: 'carry/kept-copy',
      message: `the live file was reset; the copy of ${backup.at.slice(0, 10)} (${backup.name}) is carried`,
      hint: '--mine live carries what is live',
    }),
  )
}

/** Each edit that is gone from a file which was not reset. */
export function goneNotes({ gone, wipedIn }: Mine): LocatedProblem[] {
  const where = wipedIn === undefined ? '' : `; ${wipedIn.name} has it`
  return gone.map(({ path, key, value }) =>
    fileProblem(path, {
      severity: 'warning',
      code: 'carry/wiped',
      message: `${key === '' ? 'the file' : `${key}: your ${value === null ? 'removal' : visibleValue(value)}`} is gone from the live folder${where}`,
      hint: '--mine kept carries the kept copies',
    }),
  )
}

/** So much of a value stands in a note; UTF-16 code units. */
const MOST_SHOWN = 60

function visibleValue(value: string): string {
  const line = value.replace(/\s+/g, ' ')
  return line.length <= MOST_SHOWN ? line : `${line.slice(0, MOST_SHOWN)}…`
}

/** What became of decisions that made nothing, where that is to be known. */
export function recalledNotes({ files }: CarryReport): LocatedProblem[] {
  return files.flatMap(({ path, recalled }) =>
    (recalled?.notApplied ?? [])
      // a key that was in question and is no longer needs no answer
      .filter(({ decision: { id, take } }) => id === undefined || take === 'onto')
      .map(({ decision, why }) =>
        fileProblem(path, {
          severity: 'warning',
          code: 'carry/decision-not-applied',
          message: `${decision.key === '' ? 'what you decided for the whole file' : `${decision.key}: what you decided (${saidOf(decision)})`} was not applied: ${why}`,
        }),
      ),
  )
}

function saidOf({ take, value }: Remembered): string {
  return value === undefined ? take : `${take}:${value.slice(0, 60)}`
}

/** Places whose entries are told apart by something else than in the carry before. */
export function identityNotes(
  { files }: CarryReport,
  before: ReadonlyMap<string, ReadonlyMap<string, string>>,
): LocatedProblem[] {
  return files.flatMap(({ path, reading }) => {
    const known = before.get(path)
    if (known === undefined || reading === undefined) return []
    return [...known].flatMap(([place, was]) => {
      const now = reading.identities.get(place)
      if (now === undefined || now === was) return []
      const message = `entries at ${place === '' ? 'the root' : place} are told apart by ${now} now, and were by ${was}; their keys changed`
      return [fileProblem(path, { severity: 'warning', code: 'carry/other-identity', message })]
    })
  })
}

/** Files that were reset and hold something of the operator's own, as a sentence. */
export function unsureWords(unsure: readonly ResetFile[]): string {
  return shortList(unsure.map(({ path }) => path))
}
