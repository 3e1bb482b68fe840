import type { Side } from '../document/sides.ts'
import { MINE, NEW, triple } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import type { EntryPlan, ListPlan } from '../plan/plan.ts'
import type { WriteContext } from './context.ts'
import { ListForm } from './list-form.ts'
import { ListFrame } from './list-frame.ts'
import type { Place } from './unit-writer.ts'
import { UnitWriter } from './unit-writer.ts'

/** Writes a container: its opening, its entries in their order, its closing. */
export function writeList(context: WriteContext, plan: ListPlan): void {
  const form = new ListForm(context, plan.input)
  const frame = new ListFrame(context, plan, form)
  frame.open()
  new EntriesWriter(plan, new UnitWriter(context, plan.input, form)).write()
  frame.close()
}

class EntriesWriter {
  constructor(
    private readonly plan: ListPlan,
    private readonly units: UnitWriter,
  ) {}

  write(): void {
    const { order, entries, frame } = this.plan
    const isLive = (cls: number): boolean => this.isLive(cls, surely(entries[cls]))
    const last = order.findLastIndex(isLive)
    const trailing = frame?.hasTrailingSeparator === true
    for (const [at, cls] of order.entries()) {
      const wantsSeparator = at < last || (at === last && trailing)
      this.entry(cls, surely(entries[cls]), {
        separator: wantsSeparator && isLive(cls),
        follows: (side) => this.stands(side, cls, order[at - 1], -1),
        precedes: (side) => this.stands(side, cls, order[at + 1], 1),
      })
    }
  }

  /** Whether a class has another one directly beside it in a document; none beside it where there is no other. */
  private stands(side: Side, cls: number, other: number | undefined, by: -1 | 1): boolean {
    const { matching } = this.plan
    const unit = matching.unit(side, cls)
    if (unit < 0) return false
    const at = unit + by
    const isThere = at >= 0 && at < (matching.lists[side]?.length ?? 0)
    return other === undefined ? !isThere : isThere && matching.unit(side, other) === at
  }

  private entry(cls: number, { fate, whole, parts }: EntryPlan, place: Place): void {
    const { units } = this
    const { matching } = this.plan
    const single = (side: Side): void => {
      units.single(side, matching.unit(side, cls), place.separator)
    }
    if (fate === 'only-comments') units.ownCommentsOnly(matching.unit(MINE, cls))
    else if (fate === 'vanilla-added') single(NEW)
    else if (fate !== 'merged') single(MINE)
    else if (whole !== undefined) {
      const all = triple((side) => matching.unit(side, cls))
      units.whole(all, whole, place)
    } else units.parts(surely(parts), place)
  }

  /** Whether an entry is written, and not only comments. */
  private isLive(cls: number, entry: EntryPlan): boolean {
    if (entry.fate === 'only-comments') return false
    if (entry.fate === 'merged' && entry.whole === undefined)
      return entry.parts?.entry !== undefined
    const side = entry.fate === 'vanilla-added' ? NEW : (entry.whole ?? MINE)
    const list = surely(this.plan.matching.lists[side])
    const unit = this.plan.matching.unit(side, cls)
    return !list.isComment(unit) && !list.isDormant(unit)
  }
}
