import { createHash } from 'node:crypto'
import type { Conflict } from '../../core/report/ledger.ts'
import type { FileReport } from '../../core/report/report.ts'
import type { WipedEdit } from '../../core/facts/backup.ts'
import type { FileRule } from '../config/config.ts'
import { mergedReport } from '../carry/merged-report.ts'

/** A copy of a file, and what the release has that it was made from. */
export interface MadeFrom {
  bytes: Buffer
  vanilla: Buffer | undefined
}

/** One file of a variant, as all releases have it. */
export interface KnownFile {
  path: string
  rule: FileRule | undefined
  /** What all releases have, each content once. */
  releases: readonly Buffer[]
}

/** What became of the edits of a kept copy in a live file. */
export interface Loss {
  wiped: WipedEdit[]
  /** How many edits the kept copy has. */
  kept: number
}

/** So many lost edits make a file reset, ... */
const LEAST_LOST = 3
/** ... where they are such a share of all. */
const LEAST_SHARE = 0.5

/** Compares files of one path; what was compared before is known. */
export class FileEdits {
  private readonly edited = new Map<string, boolean>()

  constructor(private readonly file: KnownFile) {}

  /** Whether a copy differs by value from what every release has. */
  async hasEdits(copy: Buffer): Promise<boolean> {
    const hash = createHash('sha256').update(copy).digest('hex')
    const known = this.edited.get(hash)
    if (known !== undefined) return known
    const answer = !(await this.isOfRelease(copy))
    this.edited.set(hash, answer)
    return answer
  }

  private async isOfRelease(copy: Buffer): Promise<boolean> {
    const { releases } = this.file
    if (releases.some((each) => each.equals(copy))) return true
    for (const release of releases) {
      const { changes, conflicts, outcome } = await this.compare(release, release, copy)
      if (outcome !== 'unread' && changes.length + conflicts.length === 0) return true
    }
    return false
  }

  /** Which edits of a kept copy are gone from a live file. */
  async loss({ bytes: kept, vanilla }: MadeFrom, live: Buffer | undefined): Promise<Loss> {
    const { path } = this.file
    const whole = [{ path, key: '', value: null }]
    if (live === undefined) {
      const edits =
        vanilla === undefined ? 1 : (await this.compare(vanilla, vanilla, kept)).changes.length
      return { wiped: edits === 0 ? [] : whole, kept: Math.max(1, edits) }
    }
    if (live.equals(kept) || vanilla === undefined) return { wiped: [], kept: 1 }
    const { changes, conflicts, outcome, counts } = await this.compare(vanilla, live, kept)
    if (outcome === 'unread') return { wiped: [], kept: 1 }
    const gone = changes.filter(({ side }) => side === 'mine')
    const reset = conflicts.length === 0 ? [] : await this.resetBy(kept, vanilla, live, conflicts)
    const wiped = [...gone, ...reset].map(({ key, mine }) => ({ path, key, value: mine }))
    return { wiped, kept: counts.edits + counts.both + counts.conflicts }
  }

  /** A live file is reset where it is missing, some release's by value, or has lost much of what was kept. */
  async isReset(live: Buffer | undefined, { wiped, kept }: Loss): Promise<boolean> {
    if (live === undefined) return true
    if (wiped.length >= LEAST_LOST && wiped.length >= kept * LEAST_SHARE) return true
    return wiped.length > 0 && !(await this.hasEdits(live))
  }

  /** Whether a copy has lost so much of what was kept that it is no copy to keep. */
  isMuchLost({ wiped, kept }: Loss): boolean {
    return wiped.length > 0 && wiped.length >= kept * LEAST_SHARE
  }

  /** Whether a live file holds what neither a release nor the kept copy has. */
  async hasOwn({ bytes: kept, vanilla }: MadeFrom, live: Buffer): Promise<boolean> {
    const { releases } = this.file
    if (vanilla === undefined) return !live.equals(kept)
    const { changes, conflicts, outcome } = await this.compare(vanilla, kept, live)
    if (outcome === 'unread') return true
    const own = new Set(
      [...changes.filter(({ side }) => side === 'mine'), ...conflicts].map(({ key }) => key),
    )
    for (const release of releases) {
      if (own.size === 0) return false
      const alike = await this.compare(vanilla, release, live)
      for (const { key, side } of alike.changes) if (side === 'both') own.delete(key)
    }
    return own.size > 0
  }

  /** Keys at which a live file has another value than the kept copy, and one that some release has. */
  private async resetBy(
    kept: Buffer,
    vanilla: Buffer,
    live: Buffer,
    conflicts: readonly Conflict[],
  ): Promise<Conflict[]> {
    const { releases } = this.file
    if (releases.some((each) => each.equals(live))) return [...conflicts]
    const left = new Set(conflicts)
    for (const release of releases) {
      const { conflicts: others } = await this.compare(vanilla, release, kept)
      const values = new Map(others.map(({ key, new: value }) => [key, value]))
      for (const each of left) if (values.get(each.key) === each.new) left.delete(each)
    }
    return conflicts.filter((each) => !left.has(each))
  }

  private compare(old: Buffer, fresh: Buffer, mine: Buffer): Promise<FileReport> {
    const { path, rule } = this.file
    return mergedReport({ path, bytes: [old, fresh, mine], rule })
  }
}
