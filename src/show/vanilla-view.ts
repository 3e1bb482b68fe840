import type {
  ListedRelease,
  ListedReleases,
  Release,
  SourceRemark,
  StoreFinding,
  TakenRelease,
  VerifiedStore,
} from '../core/facts/release.ts'
import { nameOf } from '../core/facts/release.ts'
import { showNext } from './next.ts'
import type { Paint } from './paint.ts'
import { clip, count, oneLine, pad, wrap } from './text.ts'
import { shownBytes, shownTime } from './units.ts'
import { saysOther } from './vanilla-json.ts'

/** More remarks than this are counted. */
const MOST_REMARKS = 8
const MOST_FINDINGS = 40

/** What was taken in. */
export function showAdded(
  taken: TakenRelease,
  next: readonly string[],
  paint: Paint,
  width: number,
): string {
  const { release, name } = taken
  const head =
    taken.sameAs === undefined
      ? `Vanilla ${name} is in the store`
      : `Vanilla ${name} is in the store as it is here; nothing was added`
  const size =
    release.newBytes === release.bytes
      ? shownBytes(release.bytes)
      : `${shownBytes(release.bytes)}, ${shownBytes(release.newBytes)} of them new`
  const from = release.sources.map((source) => oneLine(source, 200)).join(' and ')
  const onto = release.onto === null ? '' : `, and from ${release.onto} what is not there`
  const lines = [
    paint.strong(head),
    ...wrap(`${count(release.files, 'file')}, ${size}, from ${from}${onto}`, width, '  '),
  ]
  if (taken.says !== undefined) {
    const said = `Is it the right one? ${capital(saysOther(taken.says, release.label))}.`
    lines.push(...wrap(said, width, '  ').map((line) => paint.open(line)))
  }
  if (taken.wrapped !== undefined) {
    const hint = `All of it stands in ${taken.wrapped}, which no other release has. To take it from there: remove it and add it with --subfolder ${taken.wrapped}.`
    lines.push(...wrap(hint, width, '  ').map((line) => paint.open(line)))
  }
  return text([...lines, ...shownRemarks(taken.remarks, paint, width), ...showNext(next, width)])
}

function shownRemarks(remarks: readonly SourceRemark[], paint: Paint, width: number): string[] {
  const lines = remarks
    .slice(0, MOST_REMARKS)
    .flatMap(({ path, message }) => wrap(`${oneLine(path, 80)}  ${message}`, width, '    '))
  if (remarks.length > MOST_REMARKS) lines.push(`    and ${remarks.length - MOST_REMARKS} more`)
  return remarks.length === 0 ? [] : ['', '  To know:', ...lines.map((line) => paint.quiet(line))]
}

/** The releases, in their order. */
export function showListed(
  { releases, bytes, missing }: ListedReleases,
  next: readonly string[],
  paint: Paint,
  width: number,
): string {
  if (releases.length === 0)
    return text(['The store holds no vanilla yet.', ...showNext(next, width)])
  const head = `${count(releases.length, 'vanilla', 'vanillas')} in the store, in their order; ${shownBytes(bytes)} in all`
  const names = Math.max(...releases.map(({ name }) => name.length))
  return text([
    paint.strong(head),
    '',
    ...releases.map((release) => clip(releaseLine(release, names), width)),
    ...missing.flatMap(({ variant, vanilla }) =>
      wrap(`${variant} was made from ${vanilla}, which is not in the store.`, width, '  ').map(
        (line) => paint.open(line),
      ),
    ),
    ...showNext(next, width),
  ])
}

function releaseLine(release: ListedRelease, names: number): string {
  const size = `${count(release.files, 'file').padStart(12)}${shownBytes(release.bytes).padStart(10)}`
  const facts = [
    ...(release.revision === null ? [] : ['trial']),
    ...(release.onto === null ? [] : [`onto ${release.onto}`]),
    ...(release.variants.length === 0 ? [] : [`used by ${release.variants.join(', ')}`]),
  ]
  const added = shownTime(new Date(release.added))
  return `  ${pad(release.name, names)}${size}   ${added}   ${facts.join(', ')}`.trimEnd()
}

/** Whether the store is as it was. */
export function showVerified(
  verified: VerifiedStore,
  next: readonly string[],
  paint: Paint,
  width: number,
): string {
  const { findings, releases, files, bytes } = verified
  const looked = `${count(releases, 'vanilla', 'vanillas')}, ${count(files, 'file')}, ${shownBytes(bytes)}`
  if (findings.length === 0)
    return text([`All is as it was taken in: ${looked}.`, ...showNext(next, width)])
  return text([
    paint.open(`${count(findings.length, 'file is', 'files are')} not as taken in, of ${looked}`),
    '',
    ...findings.slice(0, MOST_FINDINGS).map((finding) => clip(findingLine(finding), width)),
    ...(findings.length > MOST_FINDINGS
      ? [`  and ${findings.length - MOST_FINDINGS} more; --json lists them all`]
      : []),
    '',
    ...wrap('Remove the release and take it in again; nothing else mends it.', width, ''),
    ...showNext(next, width),
  ])
}

function findingLine({ release, path, what }: StoreFinding): string {
  return `  ${release}  ${path === '' ? 'the list of its files' : path}  ${what}`
}

export function showRemoved(
  { release, freedBytes }: { release: Release; freedBytes: number },
  next: readonly string[],
  paint: Paint,
  width: number,
): string {
  const head = `Vanilla ${nameOf(release)} is out of the store; ${shownBytes(freedBytes)} came free`
  return text([paint.strong(head), ...showNext(next, width)])
}

function capital(sentence: string): string {
  return sentence.charAt(0).toUpperCase() + sentence.slice(1)
}

function text(lines: readonly string[]): string {
  return `${lines.join('\n')}\n`
}
