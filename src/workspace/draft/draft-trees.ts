import type { CarryReport } from '../../core/report/report.ts'
import type { Remembered } from '../../core/report/remembered.ts'
import type { Triple } from '../../core/document/sides.ts'
import { MINE } from '../../core/document/sides.ts'
import type { TreesRequest } from '../carry/carry-trees.ts'
import { carryTrees } from '../carry/carry-trees.ts'
import { EXIT, Failure } from '../failure.ts'
import { releaseTree } from '../store/release-tree.ts'
import { releaseNamed } from '../store/release.ts'
import type { FileTree, TreeEntry } from '../tree.ts'
import { keptFolder, liveTree } from '../variant/mine.ts'
import type { Variant, Workspace } from '../workspace.ts'
import type { DraftRecord } from './draft.ts'
import { hashOfFile } from './hash.ts'
import { MemoryOutput } from './memory-output.ts'

/** The three folders that a draft was made from, as they are now. */
export async function draftTrees(
  workspace: Workspace,
  variant: Variant,
  record: DraftRecord,
): Promise<Triple<FileTree>> {
  const { store, layout } = workspace
  const releases = await store.releases()
  const fresh = await releaseTree(store, releaseNamed(releases, record.to), true)
  const old = new Map<string, TreeEntry>(
    record.old === 'none'
      ? []
      : await releaseTree(store, releaseNamed(releases, record.from), true),
  )
  const mine = new Map<string, TreeEntry>(liveTree(workspace, variant))
  const guessed = new Map<string, FileTree>()
  for (const { path, old: name, kept } of record.files) {
    if (kept !== undefined)
      mine.set(path, { kind: 'file', location: `${keptFolder(layout, kept)}/${path}` })
    if (name === undefined) continue
    const tree = guessed.get(name) ?? (await releaseTree(store, releaseNamed(releases, name)))
    guessed.set(name, tree)
    const entry = tree.get(path)
    if (entry !== undefined) old.set(path, entry)
  }
  return [old, fresh, mine]
}

/** Some files of a draft, carried once more. */
export interface Recarried {
  report: CarryReport
  /** What each of them is then; nothing for one that is not in the result. */
  output: MemoryOutput
}

/**
 * Carries files of a draft once more, with what was decided.
 *
 * @param trees what the draft was made from, as it is now
 * @throws Failure where a live file is no longer what the draft was made from
 */
export async function recarry(
  workspace: Workspace,
  variant: Variant,
  { record, trees }: { record: DraftRecord; trees: Triple<FileTree> },
  paths: ReadonlySet<string>,
  decided: ReadonlyMap<string, readonly Remembered[]>,
): Promise<Recarried> {
  refuseChanged(variant, record, paths, trees[MINE])
  const { old, sparse } = record
  const how = { trees, oldUnknown: old === 'none', sparse, identities: identitiesOf(record) }
  return carryInMemory(workspace, how, paths, decided)
}

/** Carries some files of three folders in memory. */
export async function carryInMemory(
  { config }: Workspace,
  how: Pick<TreesRequest, 'trees' | 'oldUnknown' | 'sparse' | 'identities'>,
  paths: ReadonlySet<string>,
  remembered: ReadonlyMap<string, readonly Remembered[]>,
): Promise<Recarried> {
  const output = new MemoryOutput()
  const isMeant = (path: string): boolean => paths.has(path)
  const request = { ...how, config, remembered, isMeant, holdsConfig: false }
  return { report: await carryTrees(request, output), output }
}

/** What told entries apart in a draft, by path and place. */
export function identitiesOf({
  identities,
}: DraftRecord): Map<string, ReadonlyMap<string, string>> {
  return new Map(
    Object.entries(identities).map(([path, places]) => [path, new Map(Object.entries(places))]),
  )
}

function refuseChanged(
  { name }: Variant,
  record: DraftRecord,
  paths: ReadonlySet<string>,
  mine: FileTree,
): void {
  for (const { path, was, live, mine: from } of record.files) {
    if (!paths.has(path) || from === 'kept') continue
    const entry = mine.get(path) ?? (was === undefined ? undefined : mine.get(was))
    if (hashOfFile(entry) === live) continue
    throw new Failure(
      'draft/live-changed',
      `${path} of ${name} is no longer what the draft was made from`,
      {
        exit: EXIT.refused,
        path,
        hint: 'carry once more: what was decided holds',
        next: [`anagnosis carry ${name} --to ${record.to}`],
      },
    )
  }
}
