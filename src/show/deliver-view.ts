import type { Delivered, DeliveredFile, Restored } from '../core/facts/delivered.ts'
import { showNext } from './next.ts'
import type { Paint } from './paint.ts'
import { count, oneLine, wrap } from './text.ts'

/** More files than this are counted. */
const MOST_FILES = 12

/** What a delivery would do: for the question whether it is to be done. */
export function shownPlan(delivered: Delivered, paint: Paint, width: number): string[] {
  const { variant, draft, vanilla, files, same, notLookedAt } = delivered
  const of = (did: DeliveredFile['did']): DeliveredFile[] =>
    files.filter((file) => file.did === did)
  return [
    paint.strong(`${variant}: the draft ${draft}, from ${vanilla.was} to ${vanilla.now}`),
    ...group('to be written', of('written'), width),
    ...group('to be added', of('added'), width),
    ...group('to be removed', of('removed'), width),
    `  ${count(same, 'file')} ${same === 1 ? 'is' : 'are'} live already`,
    ...(notLookedAt === 0
      ? []
      : wrap(
          `Nobody looked at ${count(notLookedAt, 'group')} of changes of vanilla.`,
          width,
          '  ',
        )),
  ]
}

function group(what: string, files: readonly DeliveredFile[], width: number): string[] {
  if (files.length === 0) return []
  const named = listed(files.map(({ path }) => path))
  return wrap(`${count(files.length, 'file')} ${what}: ${named}`, width, '  ')
}

/** Paths in a row, as many as are shown. */
function listed(paths: readonly string[]): string {
  const shown = paths.slice(0, MOST_FILES).map((path) => oneLine(path, 60))
  const rest = paths.length - shown.length
  return shown.join(', ') + (rest > 0 ? ` and ${rest} more` : '')
}

/** A delivery as text for people. */
export function showDelivered(
  delivered: Delivered,
  next: readonly string[],
  paint: Paint,
  width: number,
): string {
  const { variant, backup, vanilla, files, refusals, reminders, dryRun, leftAlone } = delivered
  const { parcel, findings = [], notes = [] } = delivered
  const said = notes.flatMap(({ message }) => wrap(message, width, '  '))
  if (parcel !== undefined)
    return text([...shownParcel(variant, parcel, paint, width), ...said], next, width)
  if (findings.length > 0) return text(shownFindings(findings, paint, width), next, width)
  const lines =
    refusals.length > 0
      ? [
          paint.open(`${variant} is not put live:`),
          ...refusals.flatMap(({ message }) => wrap(message, width, '  ')),
        ]
      : backup === null
        ? [
            ...shownPlan(delivered, paint, width),
            ...said,
            dryRun ? '  Nothing was written.' : '  Nothing was done.',
          ]
        : [
            paint.strong(
              `${variant} is live on ${vanilla.now}: ${count(files.length, 'file')} replaced, added or removed`,
            ),
            ...wrap(`What was live before is in the backup ${backup}`, width, '  '),
            ...leftAlone.flatMap(({ path, message }) => wrap(`${path}  ${message}`, width, '  ')),
            ...(reminders.length === 0 ? [] : ['', '  To do now:']),
            ...reminders.flatMap((each) => wrap(each, width, '    ')),
          ]
  return text(lines, next, width)
}

function text(lines: readonly string[], next: readonly string[], width: number): string {
  return `${[...lines, ...showNext(next, width)].join('\n')}\n`
}

function shownParcel(
  variant: string,
  parcel: NonNullable<Delivered['parcel']>,
  paint: Paint,
  width: number,
): string[] {
  const gone =
    parcel.delete === 0
      ? 'none to be deleted'
      : `${count(parcel.delete, 'file')} to be deleted on the host (DELETE.txt names them)`
  const counts = `${count(parcel.upload, 'file')} to be uploaded, ${gone}.`
  const how = 'Upload in binary mode. The variant moves when a fresh download is confirmed.'
  return [
    paint.strong(`The parcel of ${variant} is in ${parcel.location}`),
    ...wrap(`${counts} ${how}`, width, '  '),
  ]
}

function shownFindings(
  findings: NonNullable<Delivered['findings']>,
  paint: Paint,
  width: number,
): string[] {
  const they = findings.length === 1 ? 'it' : 'they'
  const head = `${count(findings.length, 'file')} did not arrive as ${they} should; nothing moved:`
  return [
    paint.open(head),
    ...findings.flatMap(({ path, message }) => wrap(`${path}  ${message}`, width, '  ')),
  ]
}

/** What a restore puts back, as text for people. */
export function showRestored(
  restored: Restored,
  isDone: boolean,
  next: readonly string[],
  paint: Paint,
  width: number,
): string {
  const { variant, backup, before, vanilla, files } = restored
  const of = (did: string): string[] =>
    files.filter((file) => file.did === did).map(({ path }) => path)
  const [put, removed, appeared] = [of('put-back'), of('removed'), of('appeared')]
  const head = isDone
    ? `${variant} is as it was in ${backup}, on vanilla ${vanilla.now}`
    : `${variant}: to be put back from ${backup}, on vanilla ${vanilla.now}`
  const lines = [
    ...wrap(head, width, '').map((line) => paint.strong(line)),
    ...wrap(
      `${count(put.length, 'file')} put back${put.length === 0 ? '' : `: ${listed(put)}`}`,
      width,
      '  ',
    ),
    ...(removed.length === 0
      ? []
      : wrap(`${count(removed.length, 'file')} removed: ${listed(removed)}`, width, '  ')),
    ...(appeared.length === 0
      ? []
      : wrap(
          `${count(appeared.length, 'file')} appeared later and ${appeared.length === 1 ? 'stays' : 'stay'}: ${listed(appeared)}; --remove-later removes such files`,
          width,
          '  ',
        )),
    ...(before === ''
      ? []
      : wrap(
          `What was live before is in the backup ${before}; restore puts that back`,
          width,
          '  ',
        )),
  ]
  return text(lines, next, width)
}
