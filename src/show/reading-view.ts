import type { FileReport, Reading } from '../core/report/report.ts'
import type { Paint } from './paint.ts'
import { count, oneLine, wrap } from './text.ts'

/** As many files as a report for people tells the reading of. */
const MOST_READINGS = 8
const MOST_IDENTITIES = 4

/**
 * How files were read, so that a wrong guess is seen: encoding, dialect, and what tells entries apart.
 * Those with open questions first; plain UTF-8 files without lists are only counted.
 */
export function showReadings(files: readonly FileReport[], paint: Paint, width: number): string[] {
  const read = files.flatMap(({ path, conflicts, reading }) =>
    reading === undefined ? [] : [{ path, open: conflicts.length, said: readingWords(reading) }],
  )
  const telling = read.filter(({ said }) => said !== PLAIN)
  if (telling.length === 0) return []
  const shown = telling.sort((a, b) => b.open - a.open).slice(0, MOST_READINGS)
  const rest = telling.length - shown.length
  const plain = read.length - telling.length
  const more = [
    ...(rest > 0 ? [`${count(rest, 'more', 'more')}, which --json lists`] : []),
    ...(plain > 0 ? [`${count(plain, 'file')} in plain ${PLAIN}`] : []),
  ]
  const lines = shown.map(({ path, said }) => `${path}  ${said}`)
  if (more.length > 0) lines.push(`and ${more.join(', ')}`)
  return [
    '',
    '  Read as follows; anagnosis.yaml can say otherwise:',
    ...lines.flatMap((line) => wrap(line, width, '    ').map((each) => paint.quiet(each))),
  ]
}

const PLAIN = 'utf-8'

function readingWords({ encoding, dialect, identities }: Reading): string {
  const all = [...identities].map(([place, by]) => `${oneLine(place, 40)} by ${oneLine(by, 40)}`)
  const some = all.slice(0, MOST_IDENTITIES)
  if (all.length > some.length) some.push(`${all.length - some.length} more`)
  return [encoding, dialect, some.join(', ')].filter((part) => part !== '').join('; ')
}
