import { statSync } from 'node:fs'
import { join, resolve } from 'node:path'
import type { CheckContext } from '../../core/checks/check.ts'
import { nameOf } from '../../core/facts/release.ts'
import type { Release } from '../../core/facts/release.ts'
import type { Draft } from '../draft/draft.ts'
import { requireDraft } from '../draft/draft.ts'
import { EXIT, Failure } from '../failure.ts'
import { findRelease } from '../store/release.ts'
import { releaseTree } from '../store/release-tree.ts'
import type { FileTree } from '../tree.ts'
import { installedVersion, parseVersionAt } from '../version-at.ts'
import type { Variant, Workspace } from '../workspace.ts'
import { requireFolder } from '../workspace.ts'

/** A folder that is checked, and what is known of it. */
export interface CheckTarget {
  variant?: Variant
  draft?: Draft
  location: string
  /** The release that it stands on, where that is known. */
  vanilla: FileTree
  /** Whether vanilla's files stand where the folder has none. */
  isSparse: boolean
  context: CheckContext
}

/** What is live of a variant. */
export async function liveTarget(workspace: Workspace, variant: Variant): Promise<CheckTarget> {
  await requireFolder(variant)
  return targetOf(workspace, variant, variant.location, variant.vanilla)
}

/** The open draft of a variant. @throws Failure where there is none */
export async function draftTarget(workspace: Workspace, variant: Variant): Promise<CheckTarget> {
  const draft = await requireDraft(workspace.layout, variant.name)
  return targetOfDraft(workspace, variant, draft)
}

export async function targetOfDraft(
  workspace: Workspace,
  variant: Variant,
  draft: Draft,
): Promise<CheckTarget> {
  const target = await targetOf(workspace, variant, draft.location, draft.record.to)
  return { ...target, draft, isSparse: draft.record.sparse }
}

async function targetOf(
  { store }: Workspace,
  variant: Variant,
  location: string,
  vanilla: string,
): Promise<CheckTarget> {
  const releases = await store.releases()
  const release = findRelease(releases, vanilla)
  return {
    variant,
    location,
    vanilla: release === undefined ? new Map() : await releaseTree(store, release),
    isSparse: variant.sparse === true,
    context: {
      gameVersion: versionOf(variant, location, vanilla),
      isSince: (since) => isSince(releases, release, since),
    },
  }
}

/** A folder of nobody's. @throws Failure where it is none */
export function folderTarget(folder: string): CheckTarget {
  const location = resolve(folder)
  if (statSync(location, { throwIfNoEntry: false })?.isDirectory() !== true)
    throw new Failure(
      'system/enoent',
      `there is no folder ${folder}, and no variant of that name`,
      {
        exit: EXIT.wrongCall,
        path: folder,
        hint: 'name a variant or a folder that is there',
      },
    )
  return {
    location,
    vanilla: new Map(),
    isSparse: false,
    context: { gameVersion: undefined, isSince: () => undefined },
  }
}

/** The version of the game: what its own files say there, else the number that the label begins with. */
function versionOf(variant: Variant, location: string, label: string): string | undefined {
  const at = variant['version-at']
  const said = at === undefined ? undefined : installedVersion(join(location), parseVersionAt(at))
  const [number = ''] = /^[0-9.]*/.exec(said ?? label) ?? []
  return number === '' ? undefined : number
}

/** Whether a release is another, one of its revisions, or a later one; undefined where the store lacks one of them. */
function isSince(
  releases: readonly Release[],
  release: Release | undefined,
  since: string,
): boolean | undefined {
  const from = releases.findIndex((each) => each.label === since || nameOf(each) === since)
  return from < 0 || release === undefined ? undefined : releases.indexOf(release) >= from
}
