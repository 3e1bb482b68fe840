import type { DecisionTake } from './remembered.ts'
import { createHash } from 'node:crypto'
import { detached } from '../document/characters.ts'
import type { Cut, Values } from './row-values.ts'
import { cutValues } from './row-values.ts'
import type { Position } from '../document/line-map.ts'
import type {
  ChangeKind,
  ChangeSide,
  ConflictKind,
  InputName,
  InputProblem,
  Settled,
} from '../plan/telling.ts'

/** The JSON types of the values, where they differ. */
export type Types = Record<InputName, string | null>

/** A key in which new or mine differs from old, and is of one mind. */
export interface Change extends Values {
  key: string
  side: ChangeSide
  kind: ChangeKind
  /** The key it had, where it was renamed. */
  was?: string
  /** The rule or decision that made the result, where one did. */
  by?: string
  /** The kind and the name of the conflict that this was, where a decision, a rule or a policy settled one. */
  wasConflict?: ConflictKind
  id?: string
  types?: Types
  cut?: Cut
  /** Where it stands, for the one key that is to be explained. */
  at?: Record<InputName, Position | null>
}

/** Whether a change is an edit that a policy drops: the result has vanilla's value where mine had its own. */
export function isDroppedEdit({ by, result, new: fresh, mine, old }: Change): boolean {
  return by?.startsWith('take: ') === true && result === fresh && mine !== old
}

/** A key that new and mine changed differently. Mine stands in the result. */
export interface Conflict extends Values {
  key: string
  kind: ConflictKind
  /** 12 hex digits; the same for the same path, key and values, whatever their form. */
  id: string
  at: Record<InputName, Position | null>
  types?: Types
  cut?: Cut
  /** The names of the conflicts that are one question with this one, itself among them. */
  together?: readonly string[]
  /** Whether what both sides have can stand, one behind the other. */
  takesBoth?: true
  /** What was answered when this key was in question for other values. */
  earlier?: EarlierAnswer
  /** Of an entry that one side dropped: what it may have become there. */
  perhaps?: Perhaps
  /** Of an entry that one side dropped: what the other changed in it, for people. */
  inside?: InnerChange[]
}

/** What was decided once, and the value, text or key that was said with it. */
export interface EarlierAnswer {
  take: DecisionTake
  value?: string
}

/** The entry that another may be now, by its path and its key; of a whole file there is no key. */
export interface Perhaps {
  path: string
  key: string | null
}

/** A value inside an entry that differs from old; null where it is not there. */
export interface InnerChange {
  /** The path from the entry, without identities. */
  path: string
  from: string | null
  to: string | null
}

/** All that a carry has to tell of one file: each key in which new or mine differs from old, once. */
export class Ledger {
  readonly changes: Change[] = []
  readonly conflicts: Conflict[] = []
  readonly problems: InputProblem[] = []
  /** Keys whose change is told by a row of another key: the identity of a renamed entry. */
  private readonly covered = new Set<string>()
  /** Where the rows of moved entries stand, by their keys: one that was changed, too, has one row. */
  private readonly moved = new Map<string, number>()

  constructor(readonly path: string) {}

  change(change: Change): void {
    if (change.kind === 'changed' && this.covered.has(change.key)) return
    detach(change)
    const moved = this.moved.get(change.key)
    if (change.kind === 'moved') this.moved.set(change.key, this.changes.length)
    if (change.kind !== 'changed' || moved === undefined) this.changes.push(change)
    else this.changes[moved] = alsoMoved(this.changes[moved], change)
  }

  conflict(
    conflict: Omit<Conflict, 'id'>,
    decoded: readonly (string | null)[],
    settled?: Settled,
  ): void {
    const id = conflictId(this.path, conflict.key, decoded)
    if (settled !== undefined) {
      this.changes.push(settledRow({ ...conflict, id }, settled))
      return
    }
    const row = { ...conflict, id }
    detach(row)
    for (const inner of row.inside ?? []) {
      inner.path = detached(inner.path)
      const values = { old: inner.from, new: inner.to, mine: null, result: null }
      cutValues(values)
      inner.from = detachedValue(values.old)
      inner.to = detachedValue(values.new)
    }
    this.forgetMoved(row.key)
    this.conflicts.push(row)
  }

  /** Names conflicts that are one question by their ids, where they were told by their keys. */
  tie(): void {
    const ids = new Map(
      this.conflicts.flatMap(({ key, id }) => [[key, id] as const, [id, id] as const]),
    )
    for (const conflict of this.conflicts)
      if (conflict.together !== undefined)
        conflict.together = conflict.together.flatMap((key) => ids.get(key) ?? [])
  }

  /** Takes back the row of a moved entry whose own value is in conflict: that is told. */
  private forgetMoved(key: string): void {
    const at = this.moved.get(key)
    if (at === undefined) return
    this.changes.splice(at, 1)
    this.moved.delete(key)
    for (const [other, row] of this.moved) if (row > at) this.moved.set(other, row - 1)
  }

  problem(problem: InputProblem): void {
    this.problems.push(problem)
  }

  /** No row of its own for this key, should it be changed. */
  cover(key: string): void {
    this.covered.add(detached(key))
  }
}

/** The row of a conflict that was settled. */
export function settledRow(
  { key, kind, id, old, new: fresh, mine, types }: Conflict,
  { by, stands }: Settled,
): Change {
  const side = typeof stands === 'string' ? stands : 'mine'
  const result = resultOf(stands, fresh, mine)
  const values = { old, new: fresh, mine, result }
  const row: Change = { key, side, kind: 'changed', by, wasConflict: kind, id, ...values }
  if (types !== undefined) row.types = types
  detach(row)
  return row
}

function resultOf(
  stands: Settled['stands'],
  fresh: string | null,
  mine: string | null,
): string | null {
  if (stands === 'vanilla') return fresh
  if (stands === 'mine') return mine
  return stands === 'both' ? [fresh, mine].filter((each) => each !== null).join(', ') : stands.text
}

/** The row of an entry that was moved, and whose own value was changed: the value is what counts. */
function alsoMoved(moved: Change | undefined, changed: Change): Change {
  return moved?.side === changed.side ? { ...changed, kind: 'moved' } : changed
}

/** Lets a row outlive the sources that its texts were cut from. */
function detach(row: Values & { key: string; was?: string; cut?: Cut }): void {
  const cut = cutValues(row)
  if (cut !== undefined) row.cut = cut
  const { old, new: fresh, mine, result } = row
  row.key = detached(row.key)
  if (row.was !== undefined) row.was = detached(row.was)
  row.old = detachedValue(old)
  // most rows have two values, each twice
  row.new = fresh === old ? row.old : detachedValue(fresh)
  row.mine = mine === old ? row.old : mine === fresh ? row.new : detachedValue(mine)
  row.result = result === mine ? row.mine : result === fresh ? row.new : detachedValue(result)
}

function detachedValue(text: string | null): string | null {
  return text === null ? null : detached(text)
}

/** A stable name for a conflict: SHA-256 over path, key and decoded values, cut to 12 hex digits. */
export function conflictId(path: string, key: string, decoded: readonly (string | null)[]): string {
  const hash = createHash('sha256')
  for (const part of [path, key, ...decoded])
    hash.update(part === null ? '-' : `${part.length}:${part}`)
  return hash.digest('hex').slice(0, 12)
}
