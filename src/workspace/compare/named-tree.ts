import { stat } from 'node:fs/promises'
import { basename } from 'node:path'
import { nameOf } from '../../core/facts/release.ts'
import { EXIT, Failure, systemFailure } from '../failure.ts'
import { releaseTree } from '../store/release-tree.ts'
import { releaseNamed } from '../store/release.ts'
import { readTree } from '../tree.ts'
import type { FileTree } from '../tree.ts'
import type { Workspace } from '../workspace.ts'

/** What is compared, and how it is called. */
export interface NamedTree {
  name: string
  tree: FileTree
}

/** Two folders, or two files, which are compared as one file whatever they are called. */
export async function treesOfPaths(old: string, fresh: string): Promise<[NamedTree, NamedTree]> {
  const areFiles = await Promise.all([isSingleFile(old), isSingleFile(fresh)])
  if (areFiles[0] !== areFiles[1]) {
    throw new Failure(
      'call/mixed-kinds',
      `one of ${old} and ${fresh} is a file, and the other a folder`,
      {
        exit: EXIT.wrongCall,
        hint: 'name two files, or two folders',
      },
    )
  }
  const treeOf = (path: string): NamedTree => ({
    name: path,
    tree: areFiles[0]
      ? new Map([[basename(fresh), { kind: 'file', location: path } as const]])
      : readTree(path),
  })
  return [treeOf(old), treeOf(fresh)]
}

async function isSingleFile(path: string): Promise<boolean> {
  const there = await stat(path).catch((error: unknown) => {
    throw systemFailure(error, 'Looking at', path)
  })
  return !there.isDirectory()
}

/** Releases in the store. @throws Failure that names those there are */
export async function treesOfReleases(
  { store }: Workspace,
  names: readonly [old: string, fresh: string],
): Promise<[NamedTree, NamedTree]> {
  const releases = await store.releases()
  const [old, fresh] = [releaseNamed(releases, names[0]), releaseNamed(releases, names[1])]
  return [
    { name: nameOf(old), tree: await releaseTree(store, old) },
    { name: nameOf(fresh), tree: await releaseTree(store, fresh) },
  ]
}
