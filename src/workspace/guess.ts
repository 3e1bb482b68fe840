import { createHash } from 'node:crypto'
import { keyedValues } from '../core/identity/keyed-values.ts'
import type { Guessed, GuessedFile } from '../core/facts/guessed.ts'
import { breathe } from './breathe.ts'
import { mergedReport } from './carry/merged-report.ts'
import type { Content } from './content/file-content.ts'
import { contentOfFile } from './content/file-content.ts'
import { nameOf } from '../core/facts/release.ts'
import type { Store } from './store/store.ts'
import type { TreeEntry } from './tree.ts'
import { readBytes, readTree } from './tree.ts'

/** A file that shares less of its keys and values with a release was not made from it, as far as can be told. */
const LEAST_SHARE = 0.6

interface Stored {
  path: string
  hash: string
  location: string
  /** The releases that have this content at this path. */
  releases: string[]
}

/** Tells for each file of a folder which of the stored releases it was made from, and for the folder. */
export async function guessFolder(
  store: Store,
  folder: string,
  options: {
    isLeftOut?: (path: string) => boolean
    /** The release that the folder is said to be made from: of several that it equals that one is named first. */
    own?: string | undefined
    progress?: (done: number, total: number) => void
    signal?: AbortSignal
  } = {},
): Promise<Guessed> {
  const order: string[] = []
  const stored = new Map<string, Stored[]>()
  for (const release of await store.releases()) {
    order.push(nameOf(release))
    for (const { path, hash } of await store.files(release)) {
      if (hash === undefined) continue
      const known = stored.get(path.toLowerCase()) ?? []
      const same = known.find((each) => each.hash === hash)
      if (same !== undefined) same.releases.push(nameOf(release))
      else
        known.push({ path, hash, location: store.layout.object(hash), releases: [nameOf(release)] })
      stored.set(path.toLowerCase(), known)
    }
  }
  const tree = [...readTree(folder, options.isLeftOut)].filter(([, { kind }]) => kind === 'file')
  const files: GuessedFile[] = []
  for (const [path, entry] of tree) {
    await breathe()
    options.signal?.throwIfAborted()
    files.push(await guessFile(path, entry, stored.get(path.toLowerCase()) ?? []))
    options.progress?.(files.length, tree.length)
  }
  return summed(files, order, stored, options.own)
}

async function guessFile(
  path: string,
  entry: TreeEntry,
  candidates: readonly Stored[],
): Promise<GuessedFile> {
  const bytes = readBytes(entry.location)
  const hash = createHash('sha256').update(bytes).digest('hex')
  const equal = candidates.find((each) => each.hash === hash)
  if (equal !== undefined)
    return { path, releases: equal.releases, share: 1, isClean: true, differs: 0, isOwn: false }
  const unknown = { path, releases: [], share: 0, isClean: false, differs: null }
  if (candidates.length === 0) return { ...unknown, isOwn: true }
  const content = contentOfFile(path, bytes)
  const judged = candidates.map((each) => {
    const vanilla = readBytes(each.location)
    return { each, vanilla, share: shareOf(content, contentOfFile(path, vanilla)) }
  })
  const share = Math.max(...judged.map((each) => each.share))
  const best = judged.filter((each) => each.share === share)
  if (share < LEAST_SHARE) return { ...unknown, share, isOwn: false }
  const [first] = best
  const differs = first === undefined ? null : await differingKeys(path, first.vanilla, bytes)
  const releases = best.flatMap(({ each }) => each.releases)
  return { path, releases, share, isClean: false, differs, isOwn: false }
}

/** How much of the keys and values that a file holds a release's file holds, too. */
export function shareOf(file: Content, vanilla: Content): number {
  if (file.sort !== vanilla.sort) return 0
  const [mine, released] =
    file.doc === undefined || vanilla.doc === undefined
      ? [file.features, vanilla.features]
      : keyedValues([file.doc, vanilla.doc])
  let [all, shared] = [0, 0]
  for (const [feature, times] of mine ?? []) {
    all += times
    shared += Math.min(times, released?.times(feature) ?? 0)
  }
  return all === 0 ? 0 : shared / all
}

/** In how many keys a file differs from vanilla's; null where it cannot be compared by key. */
async function differingKeys(path: string, vanilla: Buffer, bytes: Buffer): Promise<number | null> {
  const report = await mergedReport({ path, bytes: [vanilla, vanilla, bytes], rule: undefined })
  return report.outcome === 'unread' ? null : report.counts.edits
}

function summed(
  files: readonly GuessedFile[],
  order: readonly string[],
  stored: ReadonlyMap<string, readonly Stored[]>,
  own: string | undefined,
): Guessed {
  const known = files.filter(({ releases }) => releases.length > 0)
  const fits = (release: string): number =>
    known.filter(({ releases }) => releases.includes(release)).length
  const here = new Set(files.map(({ path }) => path.toLowerCase()))
  const lacking = (release: string): string[] =>
    [...stored.values()]
      .flat()
      .filter(({ path, releases }) => releases.includes(release) && !here.has(path.toLowerCase()))
      .map(({ path }) => path)
      .sort()
  const isEqual = (release: string): boolean =>
    files.length > 0 &&
    files.every(({ isClean, releases }) => isClean && releases.includes(release)) &&
    lacking(release).length === 0
  const equals = order.filter(isEqual)
  // of two that fit as many files the later one is meant: it has all that the earlier one has
  const best = known.length === 0 ? undefined : order.reduce((a, b) => (fits(b) >= fits(a) ? b : a))
  const release = own !== undefined && equals.includes(own) ? own : best
  const strangers = known.filter(
    ({ releases }) => release !== undefined && !releases.includes(release),
  )
  const others = order
    .map((name) => ({
      release: name,
      files: strangers.filter(({ releases }) => releases.at(-1) === name).map(({ path }) => path),
    }))
    .filter((each) => each.files.length > 0)
  return {
    files: [...files],
    release,
    others,
    isClean: release !== undefined && equals.includes(release),
    equals: equals.sort((a, b) => Number(b === release) - Number(a === release)),
    missing: release === undefined ? [] : lacking(release),
  }
}
