import type { Overview, VariantOverview } from '../core/facts/overview.ts'
import { showNext } from './next.ts'
import type { Paint } from './paint.ts'
import { count, oneLine, pad, wrap } from './text.ts'
import { shownAge, shownBytes, shownTime } from './units.ts'

/** Where all variants stand, and what to do next. */
export function showOverview(
  overview: Overview,
  now: Date,
  next: readonly string[],
  paint: Paint,
  width: number,
): string {
  const { game, releases, variants } = overview
  const stored =
    releases.length === 0
      ? 'no vanilla in the store'
      : `vanilla ${releases.join(', ')} in the store`
  const lines = [
    ...wrap(
      `${game ?? 'Workspace'}: ${count(variants.length, 'variant')}, ${stored}`,
      width,
      '',
    ).map((line) => paint.strong(line)),
    ...installed(overview, paint, width),
    ...variants.flatMap((variant) => ['', ...shownVariant(variant, overview, now, paint, width)]),
    ...showNext(next, width),
  ]
  return `${lines.join('\n')}\n`
}

function installed(
  { installed: found, isInstalledKnown }: Overview,
  paint: Paint,
  width: number,
): string[] {
  if (found === undefined) return []
  const { version, at } = found
  if (version === undefined)
    return wrap(`The installed game does not say its version at ${at}.`, width, '  ')
  const known = isInstalledKnown ? '' : ', which is not in the store'
  const said = wrap(`The installed game says that it is ${version}${known} (${at}).`, width, '  ')
  return isInstalledKnown ? said : said.map((line) => paint.open(line))
}

function shownVariant(
  variant: VariantOverview,
  { installed: ofAll }: Overview,
  now: Date,
  paint: Paint,
  width: number,
): string[] {
  const { name, folder, vanilla, vanillaAdded, newer, backups, wiped, isThere } = variant
  const found = variant.installed ?? ofAll
  const row = (word: string, text: string, isOpen: boolean): string[] =>
    wrap(text, width - 14, '').map((line, i) => {
      const mark = pad(i === 0 ? word : '', 10)
      return `    ${isOpen ? paint.open(mark) : mark}${line}`
    })
  const age =
    vanilla === 'none'
      ? row('VANILLA', 'none: every difference between a new one and yours is a question', true)
      : vanillaAdded === null
        ? row('VANILLA', `${vanilla} is not in the store: nothing can be carried from it`, true)
        : row(
            'vanilla',
            `${vanilla}, taken into the store ${shownAge(new Date(vanillaAdded), now)}`,
            false,
          )
  const [last] = backups
  return [
    paint.mine(`  ${name}`) + `   live folder ${folder}, made from ${vanilla}`,
    ...(isThere ? [] : row('MISSING', `there is no folder ${folder}`, true)),
    ...(wiped.length === 0 ? [] : row('WIPED', wipedWords(variant), true)),
    ...age,
    ...(newer.length === 0
      ? []
      : row(
          'NEWER',
          `${newer.join(', ')} ${newer.length === 1 ? 'is' : 'are'} in the store`,
          true,
        )),
    ...(found?.version === undefined || found.version === vanilla
      ? []
      : row(
          'INSTALLED',
          `the game is ${found.version}, and these files were made from ${vanilla}`,
          true,
        )),
    ...shownDownload(variant, now, row),
    ...shownDrafts(variant, row),
    ...(last === undefined
      ? row('BACKUP', 'none yet', true)
      : row(
          'backup',
          `${shownAge(new Date(last.at), now)}, ${count(last.files, 'file')}, ${shownBytes(last.bytes)}${backups.length > 1 ? `; ${backups.length} in all` : ''}`,
          false,
        )),
  ]
}

function shownDownload(
  { newestFile }: VariantOverview,
  now: Date,
  row: (word: string, text: string, isOpen: boolean) => string[],
): string[] {
  if (newestFile === undefined) return []
  if (newestFile === null) return row('download', 'of a host; it holds no files', false)
  const time = new Date(newestFile)
  const text = `of a host; its newest file is of ${shownTime(time)}, ${shownAge(time, now)}`
  return row('download', text, false)
}

function shownDrafts(
  { drafts, isDraftBehind, lastDelivery }: VariantOverview,
  row: (word: string, text: string, isOpen: boolean) => string[],
): string[] {
  const draft = drafts.find(({ state }) => state !== 'delivered')
  if (draft === undefined)
    return lastDelivery === undefined
      ? []
      : row('delivered', `${lastDelivery.vanilla}, ${shownTime(new Date(lastDelivery.at))}`, false)
  const { name, to, open, notLookedAt } = draft
  const asked = open === 0 ? 'nothing is open' : `${count(open, 'key')} open`
  const unseen =
    notLookedAt === 0 ? '' : `, ${count(notLookedAt, 'group')} of changes nobody looked at`
  const behind = isDraftBehind ? '; a newer vanilla is in the store' : ''
  return row('DRAFT', `${name}, to ${to}: ${asked}${unseen}${behind}`, true)
}

function wipedWords({ wiped, wipedIn }: VariantOverview): string {
  const files = [...new Set(wiped.map(({ path }) => path))]
  const edits = `${count(wiped.length, 'edit')} in ${count(files.length, 'file')} ${wiped.length === 1 ? 'is' : 'are'} gone since ${wiped.length === 1 ? 'it was' : 'they were'} kept`
  const first = wiped[0]
  const example =
    first === undefined
      ? ''
      : `: ${first.path}${first.key === '' ? '' : ` ${oneLine(first.key, 40)}`}`
  const where = wipedIn === undefined ? '' : `; ${keptWords(wipedIn)} has them`
  return `${edits}${example}${wiped.length > 1 ? ' and more' : ''}${where}`
}

/** A kept copy by where it is: in a backup, or in the draft that was delivered. */
function keptWords(name: string): string {
  const draft = /^drafts\/(.*)/.exec(name)?.[1]
  return draft === undefined ? `the backup ${name}` : `the delivered draft ${draft}`
}
