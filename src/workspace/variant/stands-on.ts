import type { Release } from '../../core/facts/release.ts'
import { nameOf } from '../../core/facts/release.ts'
import { breathe } from '../breathe.ts'
import type { Content } from '../content/file-content.ts'
import { contentOfFile } from '../content/file-content.ts'
import { EXIT, Failure } from '../failure.ts'
import { shareOf } from '../guess.ts'
import { releaseTree } from '../store/release-tree.ts'
import type { FileTree, TreeEntry } from '../tree.ts'
import { readBytes } from '../tree.ts'
import type { Variant, Workspace } from '../workspace.ts'

/** Another release is meant where files share so much more with it, ... */
const CLEARLY = 0.1
/** ... and are such a share of the files with edits, ... */
const SHARE_OF_FILES = 0.2
/** ... and so many. */
const LEAST_FILES = 2

/**
 * Refuses to carry a variant from the release that the config names where its files were clearly made from the one
 * before or after it.
 *
 * @throws Failure that names the release, and how to say which is meant
 */
export async function refuseOtherVanilla(
  workspace: Workspace,
  variant: Variant,
  mine: FileTree,
  from: Release,
): Promise<void> {
  const { store } = workspace
  const releases = await store.releases()
  const at = releases.findIndex((each) => nameOf(each) === nameOf(from))
  const neighbours = [releases[at - 1], releases[at + 1]].filter((each) => each !== undefined)
  const own = await releaseTree(store, from)
  const edited = [...mine].filter(([path, entry]) => isEdited(entry, own.get(path)))
  for (const release of neighbours) {
    const other = await releaseTree(store, release)
    let [files, nearer] = [0, 0]
    for (const [path, entry] of edited) {
      await breathe()
      files++
      const [ofOwn, ofOther] = [own.get(path), other.get(path)]
      if (ofOther === undefined || ofOwn?.location === ofOther.location) continue
      const content = contentOfFile(path, readBytes(entry.location))
      const share = shareWith(path, content, ofOwn)
      // what shares nearly all with its own release has no room for more with another
      if (share <= 1 - CLEARLY && shareWith(path, content, ofOther) - share >= CLEARLY) nearer++
    }
    if (nearer >= LEAST_FILES && nearer >= files * SHARE_OF_FILES)
      throw disagrees(variant, nameOf(from), nameOf(release), [nearer, files])
  }
}

function isEdited(entry: TreeEntry, vanilla: TreeEntry | undefined): boolean {
  if (entry.kind !== 'file' || vanilla === undefined) return false
  return !readBytes(entry.location).equals(readBytes(vanilla.location))
}

function shareWith(path: string, content: Content, vanilla: TreeEntry | undefined): number {
  return vanilla === undefined
    ? 0
    : shareOf(content, contentOfFile(path, readBytes(vanilla.location)))
}

function disagrees(
  { name }: Variant,
  from: string,
  other: string,
  [nearer, files]: [number, number],
): Failure {
  return new Failure(
    'carry/other-vanilla',
    `${name} is said to be made from ${from}, but ${nearer} of its ${files} files with edits share clearly more with ${other}`,
    {
      exit: EXIT.refused,
      hint: `--old ${from} or --old ${other} says which it is, and --old guess takes for each file what fits it`,
      next: [`--old ${other}`],
    },
  )
}

/** For each file of mine the release that it was made from, as far as can be told, else the config's. */
export async function guessedOld(
  workspace: Workspace,
  mine: FileTree,
  from: Release,
): Promise<{ tree: FileTree; releases: Map<string, string> }> {
  const { store } = workspace
  const tree = new Map(await releaseTree(store, from, true))
  const releases = new Map<string, string>()
  const all = await store.releases()
  const trees = []
  for (const release of all)
    trees.push({ name: nameOf(release), files: await releaseTree(store, release) })
  for (const [path, entry] of mine) {
    if (entry.kind !== 'file') continue
    await breathe()
    const content = contentOfFile(path, readBytes(entry.location))
    let best: { share: number; name: string; at: TreeEntry } | undefined
    for (const { name, files } of trees) {
      const at = files.get(path)
      if (at === undefined) continue
      const share = shareWith(path, content, at)
      const isBetter = best === undefined || share > best.share
      if (isBetter || (share === best?.share && name === nameOf(from))) best = { share, name, at }
    }
    if (best === undefined) continue
    releases.set(path, best.name)
    tree.set(path, best.at)
  }
  return { tree, releases }
}
