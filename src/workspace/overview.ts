import { createHash } from 'node:crypto'
import type { Backup, WipedEdit } from '../core/facts/backup.ts'
import type { Overview, VariantOverview } from '../core/facts/overview.ts'
import type { Release } from '../core/facts/release.ts'
import { nameOf } from '../core/facts/release.ts'
import { listBackups } from './backup/backup.ts'
import { wipedEdits } from './backup/wiped.ts'
import { releaseTree } from './store/release-tree.ts'
import { findRelease } from './store/release.ts'
import type { Store } from './store/store.ts'
import { readTree } from './tree.ts'
import { installedVersion, parseVersionAt } from './version-at.ts'
import type { Variant, Workspace } from './workspace.ts'
import { requireFolder } from './workspace.ts'

/** Where all variants of a workspace stand. */
export async function overviewOf(workspace: Workspace): Promise<Overview> {
  const { config, store, root } = workspace
  const releases = await store.releases()
  const at = config['version-at']
  const version = at === undefined ? undefined : installedVersion(root, parseVersionAt(at))
  const files = new KnownFiles(store, releases)
  const variants: VariantOverview[] = []
  for (const variant of workspace.variants)
    variants.push(await variantOverview(workspace, variant, files))
  return {
    game: config.game,
    installed: at === undefined ? undefined : { version, at },
    isInstalledKnown: version !== undefined && findRelease(releases, version) !== undefined,
    releases: releases.map(nameOf),
    variants,
  }
}

async function variantOverview(
  workspace: Workspace,
  variant: Variant,
  files: KnownFiles,
): Promise<VariantOverview> {
  const { releases } = files
  const { name, folder, vanilla } = variant
  const release = findRelease(releases, vanilla)
  const later = release === undefined ? [] : releases.slice(releases.indexOf(release) + 1)
  const isThere = await requireFolder(variant).then(
    () => true,
    () => false,
  )
  const backups = await listBackups(workspace.layout, name)
  return {
    name,
    folder,
    isThere,
    vanilla,
    vanillaAdded: release?.added ?? null,
    newer: later.map(nameOf),
    backups,
    wiped: isThere ? await wipedOf(workspace, variant, files, backups[0]) : [],
  }
}

async function wipedOf(
  { store }: Workspace,
  { location }: Variant,
  files: KnownFiles,
  last: Backup | undefined,
): Promise<WipedEdit[]> {
  const release = last === undefined ? undefined : findRelease(files.releases, last.vanilla)
  if (last === undefined || release === undefined) return []
  const known = await files.all()
  const isVanillas = (path: string, bytes: Buffer): boolean =>
    known.has(`${createHash('sha256').update(bytes).digest('hex')} ${path}`)
  const trees = [
    await releaseTree(store, release),
    readTree(location),
    readTree(last.location),
  ] as const
  return wipedEdits(...trees, isVanillas)
}

/** The files of all releases by hash and path: read when the first variant asks for them, and once. */
class KnownFiles {
  private known: Set<string> | undefined

  constructor(
    private readonly store: Store,
    readonly releases: readonly Release[],
  ) {}

  async all(): Promise<ReadonlySet<string>> {
    if (this.known !== undefined) return this.known
    const known = new Set<string>()
    for (const release of this.releases)
      for (const { path, hash } of await this.store.files(release))
        known.add(`${hash ?? ''} ${path}`)
    this.known = known
    return known
  }
}
