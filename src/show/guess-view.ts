import type { Guessed, GuessedFile } from '../core/facts/guessed.ts'
import { shortList } from '../core/document/short-list.ts'
import { showNext } from './next.ts'
import type { Paint } from './paint.ts'
import { clip, count, oneLine, pad, wrap } from './text.ts'

/** More files than this are counted. */
const MOST_FILES = 24

/** What a folder was made from. */
export function showGuessed(
  guessed: Guessed,
  folder: string,
  next: readonly string[],
  paint: Paint,
  width: number,
): string {
  const lines = [
    ...wrap(headline(guessed, folder), width, '').map((line) => paint.strong(line)),
    ...summary(guessed, width),
    ...shownFiles(guessed, width),
    ...strangers(guessed, paint, width),
    ...absent(guessed, width),
    ...showNext(next, width),
  ]
  return `${lines.join('\n')}\n`
}

function headline({ release, isClean, files, equals }: Guessed, folder: string): string {
  if (files.length === 0) return `${folder} holds no files`
  if (release === undefined) return `${folder} was made from no vanilla in the store`
  const same = equals.slice(1)
  const also =
    same.length === 0
      ? ''
      : `; ${shortList(same)} ${same.length === 1 ? 'has' : 'have'} the same files`
  return isClean
    ? `${folder} is vanilla ${release}, clean${also}`
    : `${folder} was made from ${release}`
}

function summary({ files, release }: Guessed, width: number): string[] {
  const of = (holds: (file: GuessedFile) => boolean): number => files.filter(holds).length
  const isOf = (file: GuessedFile): boolean =>
    release !== undefined && file.releases.includes(release)
  const parts = [
    [of((file) => file.isClean && isOf(file)), 'as in it, byte for byte'],
    [of((file) => !file.isClean && isOf(file)), 'made from it and changed'],
    [of((file) => file.releases.length > 0 && !isOf(file)), 'from other vanillas'],
    [of((file) => !file.isOwn && file.releases.length === 0), 'unknown'],
    [of((file) => file.isOwn), 'in no vanilla'],
  ] as const
  const said = parts.filter(([number]) => number > 0).map(([number, what]) => `${number} ${what}`)
  return said.length === 0
    ? []
    : wrap(`${count(files.length, 'file')}: ${said.join(' · ')}`, width, '  ')
}

/** The files that are no release's as they are, those that differ most first. */
function shownFiles({ files }: Guessed, width: number): string[] {
  const changed = files
    .filter((file) => !file.isClean && !file.isOwn)
    .sort((a, b) => (b.differs ?? -1) - (a.differs ?? -1) || (a.path < b.path ? -1 : 1))
  if (changed.length === 0) return []
  const shown = changed.slice(0, MOST_FILES)
  const names = Math.min(40, Math.max(...shown.map(({ path }) => path.length)))
  const lines = shown.map((file) =>
    clip(`    ${pad(oneLine(file.path), names)}  ${fileWords(file)}`, width),
  )
  if (changed.length > shown.length)
    lines.push(`    and ${changed.length - shown.length} more; --json lists them all`)
  const isUnknown = shown.some(({ releases }) => releases.length === 0)
  const why =
    'unknown: less than 60 percent of its keys and values are in any release of the store, so nothing is said of where it is from.'
  return ['', '  Equal to no vanilla', ...lines, ...(isUnknown ? wrap(why, width, '    ') : [])]
}

function fileWords({ releases, share, differs }: GuessedFile): string {
  if (releases.length === 0) return `unknown: ${percent(share)} of it in the nearest`
  const apart =
    differs === null ? 'it could not be compared by key' : `differs in ${count(differs, 'key')}`
  return `${releases.join(' or ')}: ${apart}, ${percent(share)} alike`
}

/** A share, cut and not rounded: what is not wholly alike is never 100 percent. */
function percent(share: number): string {
  return `${Math.floor(share * 100)} percent`
}

function strangers({ others, release }: Guessed, paint: Paint, width: number): string[] {
  if (others.length === 0) return []
  const said = others.flatMap(({ release: from, files }) =>
    wrap(
      `${from}: ${files.slice(0, 6).join(', ')}${files.length > 6 ? ` and ${files.length - 6} more` : ''}`,
      width,
      '    ',
    ),
  )
  const why = `The files are of different vanillas, as after an update that was skipped: beside ${release ?? ''} there are files of`
  return ['', ...wrap(why, width, '  ').map((line) => paint.open(line)), ...said]
}

function absent({ missing, release }: Guessed, width: number): string[] {
  if (missing.length === 0) return []
  const shown = missing.slice(0, 6).join(', ')
  const more = missing.length > 6 ? ` and ${missing.length - 6} more` : ''
  return [
    '',
    ...wrap(
      `Of ${release ?? ''} it lacks ${count(missing.length, 'file')}: ${shown}${more}`,
      width,
      '  ',
    ),
  ]
}
