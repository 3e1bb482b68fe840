import { pathPattern } from '../config/path-pattern.ts'
import { isDroppedEdit } from '../../core/report/ledger.ts'
import type { FileReport } from '../../core/report/report.ts'
import type { VariantTouch } from '../../core/facts/whats-new.ts'
import { entryOf } from '../../core/keys/key.ts'
import { NEW, OLD, MINE, triple } from '../../core/document/sides.ts'
import { breathe } from '../breathe.ts'
import { carryFile } from '../carry/carry-file.ts'
import type { Config } from '../config/config.ts'
import { ruleFor } from '../config/file-rule.ts'
import { pairFiles } from '../carry/pair-files.ts'
import { releaseTree } from '../store/release-tree.ts'
import { findRelease } from '../store/release.ts'
import { readBytes } from '../tree.ts'
import { mineOf } from '../variant/mine.ts'
import type { FileTree } from '../tree.ts'
import type { CompareOptions } from './whatsnew.ts'
import type { Variant, Workspace } from '../workspace.ts'

/**
 * What an update does to a variant's live folder. Its edits are those against the vanilla that it was made
 * from, whichever release the update is told from; only where the store has not that one is it `old`.
 */
export async function touchOfVariant(
  workspace: Workspace,
  variant: Variant,
  [old, fresh]: readonly [old: FileTree, fresh: FileTree],
  options: CompareOptions & { config: Config },
): Promise<VariantTouch> {
  const { tree: mine } = await mineOf(workspace, variant, { choice: 'reset' })
  const own = findRelease(await workspace.store.releases(), variant.vanilla)
  const from = own === undefined ? old : await releaseTree(workspace.store, own)
  return touchOf(variant, [from, fresh, mine], options)
}

/** Carries the variant's files in memory, and tells what the update does to its edits. */
export async function touchOf(
  variant: Pick<Variant, 'name' | 'vanilla' | 'sparse'>,
  trees: readonly [old: FileTree, fresh: FileTree, mine: FileTree],
  options: CompareOptions & { config: Config },
): Promise<VariantTouch> {
  const touch: VariantTouch = {
    variant: variant.name,
    vanilla: variant.vanilla,
    files: [],
    conflicts: [],
    near: [],
    wiped: [],
    counts: { edits: 0, merging: 0, both: 0 },
    unread: [],
  }
  const isMeant = options.file === undefined ? () => true : pathPattern(options.file)
  const pairs = pairFiles(trees).filter(({ path }) => isMeant(path))
  for (const [done, { path, entries }] of pairs.entries()) {
    await breathe()
    options.signal?.throwIfAborted()
    options.progress?.(done + 1, pairs.length)
    const isEdited = entries[MINE] !== undefined || variant.sparse !== true
    if (!isEdited || entries.some((entry) => entry !== undefined && entry.kind !== 'file')) continue
    const bytes = triple((side) => {
      const entry = entries[side]
      return entry === undefined ? undefined : readBytes(entry.location)
    })
    if (entries[OLD] === undefined && entries[NEW] === undefined) continue
    const { report } = await carryFile({
      onlyReport: true,
      path,
      bytes,
      rule: ruleFor(options.config, path),
      format: undefined,
    })
    add(touch, report)
  }
  return touch
}

function add(touch: VariantTouch, report: FileReport): void {
  const { path } = report
  if (report.outcome === 'unread') {
    touch.unread.push(path)
    return
  }
  const { edits, conflicts, both, decided } = report.counts
  if (report.outcome === 'left-out' || edits + conflicts + both + decided === 0) return
  const wiped = report.changes.filter(isDroppedEdit)
  touch.wiped.push(...wiped.map((change) => ({ ...change, path })))
  touch.conflicts.push(...report.conflicts.map((conflict) => ({ ...conflict, path })))
  if (report.conflicts.length > 0) touch.files.push(report)
  touch.counts.edits += edits - wiped.filter(({ side }) => side === 'mine').length
  touch.counts.both += both
  touch.counts.merging += report.counts.vanillaChanges
  const edited = new Set(
    [...report.changes.filter(({ side }) => side === 'mine'), ...report.conflicts]
      .map(({ key }) => entryOf(key))
      .filter((entry) => entry !== undefined),
  )
  const near = report.changes.filter(
    ({ side, key }) => side === 'vanilla' && edited.has(entryOf(key) ?? ''),
  )
  touch.near.push(...near.map((change) => ({ ...change, path })))
}
