import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { fileFate, presenceOf, wholeChange } from '../../core/report/file-fate.ts'
import type { Change, Conflict } from '../../core/report/ledger.ts'
import type { ConflictKind } from '../../core/plan/telling.ts'
import { conflictId } from '../../core/report/ledger.ts'
import type { FileReport } from '../../core/report/report.ts'
import { fileReport } from '../../core/report/report.ts'
import type { Side, Triple } from '../../core/document/sides.ts'
import { MINE, SIDE_NAMES, SIDES, triple } from '../../core/document/sides.ts'
import type { TreeEntry } from '../tree.ts'
import { targetOf } from '../tree.ts'

/** What becomes of a path at which links stand, or things of several kinds: one of them stands as a whole. */
export interface WholeEntry {
  /** Whose it is; undefined where nothing stands there. */
  side: Side | undefined
  report: FileReport
}

/** What there is to show of each input where links stand at a path. */
export type Shown = Triple<string | null>
const NOTHING_SHOWN: Shown = [null, null, null]

/** The three-way choice between what the inputs have at one path, each as a whole. */
export function chooseWhole(
  path: string,
  entries: Triple<TreeEntry | undefined>,
  oldUnknown = false,
): WholeEntry {
  const contents = triple((side) => described(entries[side]))
  const shown = triple((side) => shownLink(entries[side]))
  const presence = presenceOf(contents, isSame)
  const file = { path, format: 'other' } as const
  const fate = fileFate(presence)
  const [, fresh, mine] = contents
  if (oldUnknown && fresh === mine)
    return { side: MINE, report: fileReport({ ...file, outcome: 'same' }) }
  if (!oldUnknown && (fate.do === 'settled' || fate.do === 'compare')) {
    const change = wholeChange(presence)
    const changes = change === undefined ? [] : [rowOfWhole(change, shown)]
    const side = SIDES.find((each) => SIDE_NAMES[each] === fate.whole)
    return { side, report: fileReport({ ...file, outcome: fate.outcome }, { changes }) }
  }
  const kind =
    fresh === undefined ? 'gone-in-vanilla' : mine === undefined ? 'gone-in-mine' : 'file'
  const conflicts = [conflictOfWhole(path, kind, contents, shown)]
  return {
    side: mine === undefined ? undefined : MINE,
    report: fileReport({ ...file, outcome: 'conflict' }, { conflicts }),
  }
}

function isSame(a: string | undefined, b: string | undefined): boolean {
  return a !== undefined && a === b
}

/** What something is, to compare: its kind, and where it leads or what it holds. */
function described(entry: TreeEntry | undefined): string | undefined {
  if (entry === undefined) return undefined
  if (entry.kind === 'link') return `link ${targetOf(entry)}`
  if (entry.kind !== 'file') return entry.kind
  return `file ${createHash('sha256').update(readFileSync(entry.location)).digest('hex')}`
}

/** What is shown of something: where a link leads, and nothing of a file as a whole. */
export function shownLink(entry: TreeEntry | undefined): string | null {
  return entry?.kind === 'link' ? `a link to ${targetOf(entry)}` : null
}

/** The row of what arrives, goes or is taken as a whole. */
export function rowOfWhole(
  { side, kind }: Pick<Change, 'side' | 'kind'>,
  [old, fresh, mine]: Shown = NOTHING_SHOWN,
): Change {
  const result = side === 'vanilla' ? fresh : mine
  return { key: '', side, kind, old, new: fresh, mine, result }
}

/** The question of what cannot be merged by key: mine stands as a whole. @param contents what stands there, in any form */
export function conflictOfWhole(
  path: string,
  kind: ConflictKind,
  contents: Triple<string | undefined>,
  [old, fresh, mine]: Shown = NOTHING_SHOWN,
): Conflict {
  const decoded = contents.map((content) => content ?? null)
  const id = conflictId(path, '', decoded)
  const at = { old: null, new: null, mine: null }
  return { key: '', kind, id, old, new: fresh, mine, result: mine, at }
}
