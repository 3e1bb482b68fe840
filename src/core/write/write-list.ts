import type { Side } from '../document/sides.ts'
import { MINE, NEW, triple } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import type { EntryPlan, ListPlan } from '../plan/plan.ts'
import type { WriteContext } from './context.ts'
import { ListForm } from './list-form.ts'
import { ListFrame } from './list-frame.ts'
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
    let before = -1
    for (const [at, cls] of order.entries()) {
      const wantsSeparator = at < last || (at === last && trailing)
      this.entry(cls, surely(entries[cls]), wantsSeparator && isLive(cls), before)
      before = cls
    }
  }

  /** @param before the class that was written before, or -1 */
  private entry(
    cls: number,
    { fate, whole, parts }: EntryPlan,
    separator: boolean,
    before: number,
  ): void {
    const { units } = this
    const { matching } = this.plan
    const follows = (side: Side): boolean => {
      const unit = matching.unit(side, cls)
      return unit === 0 ? before < 0 : matching.unit(side, before) === unit - 1
    }
    const single = (side: Side): void => {
      units.single(side, matching.unit(side, cls), separator)
    }
    if (fate === 'only-comments') units.ownCommentsOnly(matching.unit(MINE, cls))
    else if (fate === 'vanilla-added') single(NEW)
    else if (fate !== 'merged') single(MINE)
    else if (whole !== undefined) {
      const all = triple((side) => matching.unit(side, cls))
      units.whole(all, whole, separator, follows)
    } else units.parts(surely(parts), separator, follows)
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
