import type { Triple } from '../document/sides.ts'
import type { Doc } from '../formats/doc.ts'
import type { ElementPlan, EntryPlan, ListPlan, Plan, Telling } from '../plan/plan.ts'
import type { Ledger } from './ledger.ts'
import type { ReportOptions } from './recorder.ts'
import { Recorder } from './recorder.ts'

/** What of a plan is told. */
interface Voice {
  /** Whether rows are told: not inside an entry that is one row. */
  rows: boolean
  /** Whether it is told what is not in the result: not inside what is taken as a whole. */
  losses: boolean
}

const ALL: Voice = { rows: true, losses: true }

/**
 * Puts into a ledger what a plan tells: a row for each key in which new or mine differs from old, the
 * conflicts, and what there is to know.
 */
export function reportPlan(
  plan: Plan,
  docs: Triple<Doc>,
  ledger: Ledger,
  options: ReportOptions,
): void {
  new PlanReporter(new Recorder(docs, ledger, options)).plan(plan, ALL)
  ledger.tie()
}

class PlanReporter {
  constructor(private readonly record: Recorder) {}

  plan(plan: Plan, voice: Voice): void {
    switch (plan.do) {
      case 'take':
      case 'leaf':
      case 'made':
        this.all(plan.told, voice)
        break
      case 'member':
        this.all(plan.lost, voice)
        this.plan(plan.value, voice)
        break
      case 'element':
        this.element(plan, voice)
        break
      case 'list':
        this.list(plan, voice)
        break
    }
  }

  private element({ attributes, content, told }: ElementPlan, voice: Voice): void {
    this.all(told, voice)
    if (typeof attributes === 'object') this.list(attributes, voice)
    if (content.do === 'list') this.list(content, voice)
    else this.all(content.told, voice)
  }

  private list({ entries, order, frame, told }: ListPlan, voice: Voice): void {
    for (const { fateTold } of entries) this.all(fateTold, voice)
    this.all(told, voice, entries)
    if (frame !== undefined) this.all(frame.told, voice)
    for (const cls of order) {
      const entry = entries[cls]
      if (entry?.fate !== 'merged') continue
      // where an entry is one row, what is inside is told by it
      const inside = entry.isOneRow ? { ...voice, rows: false } : voice
      for (const telling of entry.told)
        this.tell(telling, telling.tell === 'inside' ? inside : voice, entries)
      if (entry.parts === undefined) continue
      const { parts } = entry
      this.all(parts.lost, voice)
      if (parts.entry !== undefined) this.plan(parts.entry, inside)
    }
  }

  private all(told: readonly Telling[], voice: Voice, entries?: readonly EntryPlan[]): void {
    for (const telling of told) this.tell(telling, voice, entries)
  }

  /** @param entries those of the list, where something may be told of one of them */
  private tell(telling: Telling, voice: Voice, entries?: readonly EntryPlan[]): void {
    switch (telling.tell) {
      case 'inside':
        this.plan(telling.plan, { ...voice, losses: false })
        break
      case 'problem':
        this.record.problem(telling.problem)
        break
      case 'loss':
        if (voice.losses) this.record.problem(telling.problem)
        break
      case 'change':
        if (voice.rows) this.record.change(telling, entries?.[telling.cls ?? -1])
        break
      case 'values':
        if (voice.rows) this.record.values(telling)
        break
      case 'conflict':
        this.record.conflict(telling)
        break
      case 'stretch':
        this.record.stretch(telling)
        break
      case 'order':
        this.record.order(telling)
        break
    }
  }
}
