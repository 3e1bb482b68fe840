import { gather } from '../document/gather.ts'
import { Kind } from '../document/kind.ts'
import type { Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDES, triple } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import { numbersInName } from '../identity/numbers.ts'
import type { Doc } from '../formats/doc.ts'
import type { Changed } from '../match/links.ts'
import type { Entries } from './entries.ts'
import type { ElementPlan, EntryPlan, Fate, ListPlan, Plan } from './plan.ts'

/*
 * Files may hold a table column by column: as lists side by side (`names`, `prices`), or as keys of one number
 * (`name0`, `price0`). Each column is carried by itself. Where the columns were in step in each of the three files and
 * are not in the result, a value may stand beside what it does not belong to.
 */

/** A column by what its rows are in a document, and in the result; undefined where a document has it not. */
interface Column<Rows> {
  name: string
  held: Triple<Rows | undefined>
  left: Rows
}

/** Lists that were as long as one another, and how long they are now. */
export interface UnevenLists {
  names: string[]
  lengths: number[]
}

/** The lists of one container that were in step and are not any more: the first of them. */
export function unevenLists(
  docs: Triple<Doc>,
  entries: Entries,
  plans: readonly EntryPlan[],
): UnevenLists | undefined {
  const inner = plans.map(contentIn)
  const isPutTogether = plans.some(({ fate }, cls) => ADDED.has(fate) || inner[cls]?.do === 'list')
  if (!isPutTogether) return undefined
  const columns = plans.flatMap((plan, cls): Column<number>[] => {
    if (!isColumn(entries, cls)) return []
    const nodes = entries.nodesOf(cls)
    const held = triple((side) => lengthOf(docs[side], nodes[side]))
    const left = lengthLeft(plan, held, inner[cls])
    // what is one long everywhere is so by chance
    if (left === undefined || held.every((length) => length === 1)) return []
    return [{ name: entries.keyOf(cls), held, left }]
  })
  const apart = outOfStep(columns, LEAST_LISTS)
  if (apart === undefined) return undefined
  return { names: apart.map(({ name }) => name), lengths: apart.map(({ left }) => left) }
}

const ADDED: ReadonlySet<Fate> = new Set<Fate>(['vanilla-added', 'mine-added'])

/** Of fewer lists that stand in all three files it may be chance that they are as long as one another. */
const LEAST_LISTS = 2

/** Columns that were in step and are not any more: the first such group. */
function outOfStep<Each extends Column<string | number>>(
  columns: readonly Each[],
  least: number,
): Each[] | undefined {
  const groups = new Map<string, Each[]>()
  for (const column of columns)
    if (!column.held.includes(undefined)) gather(groups, column.held.join(' '), column)
  for (const group of groups.values()) {
    const [first] = group
    if (first === undefined || group.length < least) continue
    // what one side put in as a further column has a row for each that it had there
    const added = columns.filter(({ held }) =>
      ([NEW, MINE] as const).some(
        (side) =>
          held[side] === first.held[side] &&
          SIDES.every((other) => (held[other] === undefined) === (other !== side)),
      ),
    )
    const all = [...group, ...added]
    if (all.some(({ left }) => left !== first.left)) return all
  }
  return undefined
}

/** Whether its name tells an entry, so that it is no row of a list itself. */
function isColumn({ matching }: Entries, cls: number): boolean {
  const side = SIDES.find((each) => matching.unit(each, cls) >= 0)
  return side !== undefined && matching.means(side, matching.unit(side, cls))?.by === 'name'
}

/** What becomes of what an entry holds; undefined where that is not put together. */
function contentIn({ parts, told }: EntryPlan): Plan | ElementPlan['content'] | undefined {
  const inside = told.find((telling) => telling.tell === 'inside')
  let plan: Plan | undefined = parts?.entry ?? inside?.plan
  if (plan?.do === 'member') plan = plan.value
  return plan?.do === 'element' ? plan.content : plan
}

/** How many entries the list in an entry has in the result; undefined where there is none, or where that is asked. */
function lengthLeft(
  { fate, whole }: EntryPlan,
  held: Triple<number | undefined>,
  content: Plan | ElementPlan['content'] | undefined,
): number | undefined {
  if (fate === 'vanilla-added') return held[NEW]
  if (fate !== 'merged') return fate === 'out' ? undefined : held[MINE]
  if (whole !== undefined) return held[whole]
  if (content?.do === 'take' || content?.do === 'content') return held[content.side]
  const inMine = held[MINE]
  if (content?.do !== 'list' || inMine === undefined) return undefined
  const { isQuestion, stretches } = content.matching
  return isQuestion || stretches.length > 0 ? undefined : inMine + gained(content)
}

/** How many entries more than mine a list has in the result. */
function gained({ matching, order }: ListPlan): number {
  const stays = new Set(order)
  let more = 0
  for (let cls = 0; cls < matching.length; cls++) {
    const side = ([MINE, NEW] as const).find((each) => matching.unit(each, cls) >= 0)
    if (side === undefined || matching.hasDormant(cls)) continue
    if (matching.isWords(side, matching.unit(side, cls))) continue
    if (side === MINE && !stays.has(cls)) more--
    if (side === NEW && stays.has(cls)) more++
  }
  return more
}

/** How many entries a list holds; undefined for what is none. */
function lengthOf(doc: Doc, node: number): number | undefined {
  if (node < 0) return undefined
  const held = doc.kind(node) === Kind.Member ? doc.memberValue(node) : node
  if (!LISTS.has(doc.kind(held))) return undefined
  return doc.children(held).filter((child) => ITEMS.has(doc.kind(child))).length
}

const LISTS: ReadonlySet<Kind> = new Set([Kind.Array, Kind.Element])
const ITEMS: ReadonlySet<Kind> = new Set([Kind.Element, Kind.Object, Kind.Array, Kind.Scalar])

/** A name that the result lacks, and one that it has: the numbers ran on, or the two stood together. */
export interface MissingNumber {
  lacks: string
  has: string
}

/** Names that differ by a number: which numbers there are. */
interface Family {
  nameOf: (number: number) => string
  numbers: Triple<Set<number>>
  left: Set<number>
}

/** The first number that the result lacks, though numbers ran on, or were in step, in each of the three files. */
export function missingNumber(
  docs: Triple<Doc>,
  entries: Entries,
  plans: readonly EntryPlan[],
): MissingNumber | undefined {
  if (!areChosenByBoth(entries, plans)) return undefined
  const families = familiesIn(docs, entries, plans)
  for (const { numbers, left, nameOf } of families) {
    const ranOn = numbers.every((each) => gapIn(each) === undefined)
    const gap = ranOn ? gapIn(left) : undefined
    if (gap !== undefined) return { lacks: nameOf(gap.missing), has: nameOf(gap.next) }
  }
  const columns = families.map((family) => ({
    name: family.nameOf(0),
    held: triple((side) => textOf(family.numbers[side])),
    left: textOf(family.left) ?? '',
    family,
  }))
  const apart = outOfStep(columns, 1)?.map(({ family }) => family) ?? []
  for (const one of apart)
    for (const other of apart)
      for (const number of one.left)
        if (!other.left.has(number)) return { lacks: other.nameOf(number), has: one.nameOf(number) }
  return undefined
}

/** Whether each side put entries in, or dropped some: what one side alone made of the numbers is as it wants them. */
function areChosenByBoth({ matching }: Entries, plans: readonly EntryPlan[]): boolean {
  const chosen = (side: Changed, fate: Fate): boolean =>
    plans.some(
      (plan, cls) =>
        plan.fate === fate ||
        (matching.unit(OLD, cls) >= 0 && matching.unit(side, cls) < 0 && !matching.isVoid(cls)),
    )
  return chosen(NEW, 'vanilla-added') && chosen(MINE, 'mine-added')
}

function familiesIn(docs: Triple<Doc>, entries: Entries, plans: readonly EntryPlan[]): Family[] {
  const found = new Map<string, Family>()
  for (const [cls, { fate }] of plans.entries()) {
    const nodes = entries.nodesOf(cls)
    const side = SIDES.find((each) => nodes[each] >= 0)
    if (side === undefined || entries.isComment(cls)) continue
    const [kind, name] = [docs[side].kind(nodes[side]), docs[side].name(nodes[side])]
    for (const { stem, number, rest } of numbersInName(name)) {
      const key = `${kind}:${stem}#${rest}`
      const width = number.startsWith('0') ? number.length : 1
      const family: Family = found.get(key) ?? {
        nameOf: (each) => `${stem}${String(each).padStart(width, '0')}${rest}`,
        numbers: triple(() => new Set<number>()),
        left: new Set<number>(),
      }
      found.set(key, family)
      for (const each of SIDES) if (nodes[each] >= 0) family.numbers[each].add(+number)
      if (fate !== 'out') family.left.add(+number)
    }
  }
  return [...found.values()]
}

/** The first number that is missing among others, and the next that is there. */
function gapIn(numbers: ReadonlySet<number>): { missing: number; next: number } | undefined {
  const sorted = ascending(numbers)
  const at = sorted.findIndex((number, rank) => rank > 0 && number !== surely(sorted[rank - 1]) + 1)
  return at < 0 ? undefined : { missing: surely(sorted[at - 1]) + 1, next: surely(sorted[at]) }
}

function textOf(numbers: ReadonlySet<number>): string | undefined {
  return numbers.size === 0 ? undefined : ascending(numbers).join()
}

function ascending(numbers: ReadonlySet<number>): number[] {
  return [...numbers].sort((a, b) => a - b)
}
