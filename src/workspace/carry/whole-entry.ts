import { createHash } from 'node:crypto'
import { readFileSync, readlinkSync } from 'node:fs'
import type { Outcome } from '../../core/carry/file-fate.ts'
import type { Change, Conflict, ConflictKind } from '../../core/carry/ledger.ts'
import { conflictId } from '../../core/carry/ledger.ts'
import type { FileReport } from '../../core/carry/report.ts'
import { fileReport } from '../../core/carry/report.ts'
import type { Side, Triple } from '../../core/document/sides.ts'
import { MINE, NEW, triple } from '../../core/document/sides.ts'
import type { TreeEntry } from '../tree.ts'

/** What becomes of a path at which links stand, or things of several kinds: one of them stands as a whole. */
export interface WholeEntry {
  /** Whose it is; undefined where nothing stands there. */
  side: Side | undefined
  report: FileReport
}

/** The three-way choice between what the inputs have at one path, each as a whole. */
export function chooseWhole(
  path: string,
  entries: Triple<TreeEntry | undefined>,
  oldUnknown = false,
): WholeEntry {
  const [old, fresh, mine] = triple((side) => described(entries[side]))
  const told = (outcome: Outcome, by?: Change['side']): FileReport =>
    fileReport(
      { path, format: 'other', outcome },
      by === undefined ? {} : { changes: [rowOf(by, entries)] },
    )
  const isGone = (side: string | undefined): boolean => side === undefined
  if (fresh === mine) {
    if (old === mine || oldUnknown) return { side: MINE, report: told('same') }
    return isGone(mine)
      ? { side: undefined, report: told('removed', 'both') }
      : { side: MINE, report: told('mine', 'both') }
  }
  if (mine === old && !oldUnknown) {
    if (isGone(fresh)) return { side: undefined, report: told('removed', 'vanilla') }
    return { side: NEW, report: told(isGone(old) ? 'added' : 'vanilla', 'vanilla') }
  }
  if (fresh === old && !oldUnknown)
    return isGone(mine)
      ? { side: undefined, report: told('removed', 'mine') }
      : { side: MINE, report: told('mine', 'mine') }
  const kind = isGone(fresh) ? 'gone-in-vanilla' : isGone(mine) ? 'gone-in-mine' : 'file'
  const conflicts = [conflictOf(path, kind, entries)]
  return {
    side: isGone(mine) ? undefined : MINE,
    report: fileReport({ path, format: 'other', outcome: 'conflict' }, { conflicts }),
  }
}

/** What something is, to compare: its kind, and where it leads or what it holds. */
function described(entry: TreeEntry | undefined): string | undefined {
  if (entry === undefined) return undefined
  if (entry.kind === 'link') return `link ${readlinkSync(entry.location)}`
  if (entry.kind !== 'file') return entry.kind
  return `file ${createHash('sha256').update(readFileSync(entry.location)).digest('hex')}`
}

/** What is shown of something: where a link leads, and nothing of a file as a whole. */
function shown(entry: TreeEntry | undefined): string | null {
  return entry?.kind === 'link' ? `a link to ${readlinkSync(entry.location)}` : null
}

function rowOf(by: Change['side'], entries: Triple<TreeEntry | undefined>): Change {
  const [old, fresh, mine] = triple((side) => shown(entries[side]))
  const from = by === 'vanilla' ? NEW : MINE
  const kind =
    entries[from] === undefined ? 'removed' : entries[0] === undefined ? 'added' : 'changed'
  return { key: '', side: by, kind, old, new: fresh, mine, result: from === NEW ? fresh : mine }
}

function conflictOf(
  path: string,
  kind: ConflictKind,
  entries: Triple<TreeEntry | undefined>,
): Conflict {
  const [old, fresh, mine] = triple((side) => shown(entries[side]))
  const id = conflictId(
    path,
    '',
    triple((side) => described(entries[side]) ?? null),
  )
  const at = { old: null, new: null, mine: null }
  return { key: '', kind, id, old, new: fresh, mine, result: mine, at }
}
