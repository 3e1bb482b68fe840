import type { SetupDone } from '../core/facts/setup.ts'
import { showNext } from './next.ts'
import type { Paint } from './paint.ts'
import { count, wrap } from './text.ts'
import { shownBytes } from './units.ts'

/** What a setup did, what becomes of the files, and what is not under its care. */
export function showSetup(
  done: SetupDone,
  next: readonly string[],
  paint: Paint,
  width: number,
): string {
  const { variant, config, policies, taken, backup, hasVanilla, fewOf } = done
  const say = (text: string, indent = '  '): string[] => wrap(text, width, indent)
  const lines = [
    paint.strong(HEADS[config].replace('VARIANT', variant.name)),
    ...say(
      variant.vanilla === 'none'
        ? `${variant.name} is ${variant.folder}, and nobody has the vanilla that it was made from`
        : `${variant.name} is ${variant.folder}, made from vanilla ${variant.vanilla}`,
    ),
    ...(fewOf === undefined
      ? []
      : say(
          `It holds ${fewOf.files} of the ${fewOf.of} files of vanilla. If these are the customised ones only, set it up with --sparse: then what is carried has these files, and no others.`,
        ).map((line) => paint.open(line))),
    ...(taken === undefined
      ? []
      : say(
          `Vanilla ${taken.name} is in the store: ${count(taken.release.files, 'file')}, ${shownBytes(taken.release.bytes)}`,
        )),
    ...(taken?.says === undefined
      ? []
      : say(`Is it the right one? The game's own files say that they are ${taken.says}.`).map(
          (line) => paint.open(line),
        )),
    ...(hasVanilla
      ? []
      : say(
          variant.vanilla === 'none'
            ? 'Every difference between a new vanilla and yours will be a question.'
            : `Vanilla ${variant.vanilla} is not in the store yet; without it nothing can be carried.`,
        ).map((line) => paint.open(line))),
    ...(backup === undefined
      ? say('It has a backup already; no other was taken.')
      : say(
          `Backed up: ${count(backup.backup.files, 'file')}, ${shownBytes(backup.backup.bytes)}, in ${backup.backup.location}`,
        )),
    '',
    '  What a carry will do with its files:',
    ...careLines(done, width),
    ...(policies.length === 0
      ? []
      : [
          '',
          '  Proposed in anagnosis.yaml, for you to change:',
          ...policies.flatMap(({ match, take, reason, files }) =>
            say(`${match}  ${take}  (${count(files, 'file')}; ${reason})`, '    '),
          ),
        ]),
    ...notCared(done, paint, width),
    ...showNext(next, width),
  ]
  return `${lines.join('\n')}\n`
}

const HEADS = {
  written: 'Wrote anagnosis.yaml, with the variant VARIANT',
  'added-to': 'Added the variant VARIANT to anagnosis.yaml',
  'as-it-was': 'VARIANT is set up already; anagnosis.yaml is as it was',
} as const

function careLines({ care }: SetupDone, width: number): string[] {
  const rows = [
    [care.byKey, 'merged key by key'],
    [care.others, 'merged by lines, or taken as a whole: they have no keys'],
    [care.vanilla, 'taken from vanilla'],
    [care.mine, 'kept as yours'],
  ] as const
  return rows
    .filter(([number]) => number > 0)
    .flatMap(([number, what]) =>
      wrap(what, width - 11, '').map(
        (line, i) => `    ${(i === 0 ? String(number) : '').padStart(5)}  ${line}`,
      ),
    )
}

function notCared({ care, backup }: SetupDone, paint: Paint, width: number): string[] {
  const said = [
    ...(care.leftOut === 0
      ? []
      : [`${count(care.leftOut, 'file')} left out of carries; backups hold them`]),
    ...(care.notFiles.length === 0
      ? []
      : [`links and what is no file: ${care.notFiles.slice(0, 5).join(', ')}`]),
    ...(backup?.notHeld ?? []).map(({ path, message }) => `${path} ${message}`),
    'whatever stands outside of that folder: databases, the host’s own settings, the game itself',
  ]
  return [
    '',
    '  Not under its care:',
    ...said.flatMap((text) => wrap(text, width, '    ')).map((line) => paint.quiet(line)),
  ]
}
