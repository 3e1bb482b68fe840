import type { DraftFacts, Overview, VariantOverview } from '../core/facts/overview.ts'
import type { Release } from '../core/facts/release.ts'
import { nameOf } from '../core/facts/release.ts'
import { listBackups } from './backup/backup.ts'
import type { Draft } from './draft/draft.ts'
import { listDrafts } from './draft/draft.ts'
import { notLookedAt, openCount } from './settle/state.ts'
import { findRelease, NO_VANILLA } from './store/release.ts'
import { newestFile } from './variant/download-age.ts'
import { mineOf } from './variant/mine.ts'
import { installedVersion, parseVersionAt } from './version-at.ts'
import type { Variant, Workspace } from './workspace.ts'
import { requireFolder } from './workspace.ts'

/** Where all variants of a workspace stand. */
export async function overviewOf(workspace: Workspace): Promise<Overview> {
  const { config, store, root } = workspace
  const releases = await store.releases()
  const at = config['version-at']
  const version = at === undefined ? undefined : installedVersion(root, parseVersionAt(at))
  const variants: VariantOverview[] = []
  for (const variant of workspace.variants)
    variants.push(await variantOverview(workspace, variant, releases))
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
  releases: readonly Release[],
): Promise<VariantOverview> {
  const { name, folder, vanilla } = variant
  const release = findRelease(releases, vanilla)
  const later =
    vanilla === NO_VANILLA
      ? releases
      : release === undefined
        ? []
        : releases.slice(releases.indexOf(release) + 1)
  const isThere = await requireFolder(variant).then(
    () => true,
    () => false,
  )
  const backups = await listBackups(workspace.layout, name)
  const mine = isThere ? await mineOf(workspace, variant) : undefined
  const known = await listDrafts(workspace.layout, name)
  const drafts = known.map((draft) => draftFacts(draft))
  const open = drafts.find(({ state }) => state !== 'delivered')
  const at = variant['version-at']
  const installed =
    at === undefined
      ? undefined
      : { version: installedVersion(variant.location, parseVersionAt(at)), at }
  return {
    name,
    folder,
    isThere,
    vanilla,
    vanillaAdded: release?.added ?? null,
    newer: later.map(nameOf),
    backups,
    wiped: mine?.wiped ?? [],
    wipedIn: mine?.wipedIn?.name,
    installed,
    newestFile:
      variant.upload === true && isThere
        ? (newestFile(variant.location)?.toISOString() ?? null)
        : undefined,
    drafts,
    lastDelivery: lastDelivery(known),
    isDraftBehind: open !== undefined && later.some((each) => comesAfter(releases, each, open.to)),
  }
}

function comesAfter(releases: readonly Release[], release: Release, name: string): boolean {
  const other = findRelease(releases, name)
  return other !== undefined && releases.indexOf(release) > releases.indexOf(other)
}

function draftFacts(draft: Draft): DraftFacts {
  const { name, record } = draft
  const { to, at, state } = record
  return { name, to, at, open: openCount(record), notLookedAt: notLookedAt(draft), state }
}

function lastDelivery(drafts: readonly Draft[]): VariantOverview['lastDelivery'] {
  const [last] = drafts
    .flatMap(({ name, record: { to, delivered } }) =>
      delivered === undefined ? [] : [{ at: delivered.at, draft: name, vanilla: to }],
    )
    .sort((a, b) => (a.at < b.at ? 1 : -1))
  return last
}
