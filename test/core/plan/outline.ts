import type { Side, Triple } from '../../../src/core/document/sides.ts'
import { SIDE_NAMES, SIDES } from '../../../src/core/document/sides.ts'
import type { Doc } from '../../../src/core/formats/doc.ts'
import { Entries } from '../../../src/core/plan/entries.ts'
import type {
  Choice,
  ElementPlan,
  EntryPlan,
  FramePlan,
  ListPlan,
  Piece,
  Plan,
  Telling,
  UnitParts,
} from '../../../src/core/plan/plan.ts'

// A plan as lines for people: what is taken, from which document, and what is told of it.

type Docs = Triple<Doc>

const inside = (lines: readonly string[]): string[] => lines.map((line) => `  ${line}`)

/** A text among others, on one line. */
const brief = (text: string): string => text.replace(/\s+/g, ' ').slice(0, 50)

/** Two sides that are mostly one. */
const both = (one: Side, other: Side): string =>
  one === other ? SIDE_NAMES[one] : `${SIDE_NAMES[one]}/${SIDE_NAMES[other]}`

export function outlineOf(plan: Plan, docs: Docs): string[] {
  const told = tellingsOf(plan.do === 'member' ? plan.lost : plan.told, docs)
  switch (plan.do) {
    case 'take':
      return [`take ${SIDE_NAMES[plan.side]}: ${sliceOf(plan.side, plan.nodes, docs)}`, ...told]
    case 'made':
      return [`made: ${brief(plan.text)}`, ...told]
    case 'leaf':
      return [`value ${chosen(plan.value)}, name as in ${SIDE_NAMES[plan.lead]}`, ...told]
    case 'member':
      return [
        `member, name as in ${SIDE_NAMES[plan.lead]}`,
        ...inside(outlineOf(plan.value, docs)),
        ...told,
      ]
    case 'element':
      return [...elementLines(plan, docs), ...told]
    case 'list':
      return listLines(plan, docs)
  }
}

function elementLines({ name, attributes, content }: ElementPlan, docs: Docs): string[] {
  const ofAttributes =
    typeof attributes === 'object'
      ? ['attributes', ...inside(listLines(attributes, docs))]
      : [`attributes of ${SIDE_NAMES[attributes]}`]
  return [`element, name of ${SIDE_NAMES[name]}`, ...ofAttributes, ...contentLines(content, docs)]
}

function contentLines(content: ElementPlan['content'], docs: Docs): string[] {
  if (content.do === 'list') return listLines(content, docs)
  const told = tellingsOf(content.told, docs)
  if (content.do === 'content') return [`content of ${SIDE_NAMES[content.side]}`, ...told]
  const { form, value } = content
  const around =
    form === undefined
      ? 'without a tag to close'
      : `between ${both(form.before, form.after)}, tag of ${SIDE_NAMES[form.close]}`
  return [`text ${chosen(value)}, ${around}`, ...told]
}

function listLines(plan: ListPlan, docs: Docs): string[] {
  const { input, matching, order, entries, frame, told, moves } = plan
  const keys = new Entries(matching, input.lists, input.where.key)
  const keyOf = (cls: number): string =>
    keys.isComment(cls) ? `comment ${cls}` : `${cls} ${keys.keyOf(cls)}`
  const isThere = (cls: number): boolean => SIDES.some((side) => matching.unit(side, cls) >= 0)
  const left = [...entries.keys()].filter((cls) => !order.includes(cls) && isThere(cls))
  const moved = ([moves.byVanilla, moves.byMine] as const).map((all) => all.join(' ')).join('; ')
  return [
    `list${input.where.key === '' ? '' : ` of ${input.where.key}`}${frame === undefined ? '' : frameOf(frame)}`,
    ...(moved === '; ' ? [] : [`  moved ${moved}`]),
    ...[...order, ...left].flatMap((cls) => {
      const entry = entries[cls]
      return entry === undefined ? [] : inside(entryLines(keyOf(cls), entry, docs))
    }),
    ...inside(tellingsOf(told, docs)),
  ]
}

function frameOf({ open, isWhole, close, hasTrailingSeparator, told }: FramePlan): string {
  const opening = open === undefined ? 'nothing' : SIDE_NAMES[open.side]
  return [
    `, ${isWhole ? 'whole' : 'opened'} as in ${opening}, closed as in ${SIDE_NAMES[close]}`,
    ...(hasTrailingSeparator ? [', with a last separator'] : []),
    ...told.map((telling) => `, ${toldOf(telling)}`),
  ].join('')
}

function entryLines(key: string, entry: EntryPlan, docs: Docs): string[] {
  const { fate, fateTold, told, whole, parts, isOneRow } = entry
  const by = whole === undefined ? '' : `, whole as in ${SIDE_NAMES[whole]}`
  return [
    `${key}: ${fate}${by}${isOneRow ? ', one row' : ''}`,
    ...inside(tellingsOf([...fateTold, ...told], docs)),
    ...(parts === undefined ? [] : inside(partsLines(parts, docs))),
  ]
}

function partsLines({ lead, own, entry, tail, lost }: UnitParts, docs: Docs): string[] {
  return [
    `blanks of ${both(lead.lines, lead.indent)}, end of ${SIDE_NAMES[tail]}`,
    ...own.map((piece) => `- ${pieceOf(piece, docs)}`).filter((line) => line.trim() !== '-'),
    ...tellingsOf(lost, docs),
    ...(entry === undefined ? [] : outlineOf(entry, docs)),
  ]
}

function pieceOf(piece: Piece, docs: Docs): string {
  if ('made' in piece) return `made ${JSON.stringify(piece.made)}`
  const text = docs[piece.side].tree.source.slice(piece.start, piece.end)
  if (text === '') return ''
  return `${SIDE_NAMES[piece.side]}${piece.isShared === true ? ', the same in both' : ''}: ${JSON.stringify(text)}`
}

function tellingsOf(told: readonly Telling[], docs: Docs): string[] {
  return told.flatMap((telling) =>
    telling.tell === 'inside'
      ? ['inside', ...inside(outlineOf(telling.plan, docs))]
      : [`* ${toldOf(telling)}`],
  )
}

function toldOf(telling: Telling): string {
  switch (telling.tell) {
    case 'change':
    case 'values':
      return `${telling.side} ${telling.kind} ${telling.was === undefined ? '' : `${telling.was} to `}${telling.key}`
    case 'conflict':
      return `${telling.kind} at ${telling.key}${telling.perhaps === undefined ? '' : `, perhaps ${telling.perhaps}`}`
    case 'stretch':
    case 'order':
      return `${telling.tell} at ${telling.key}`
    case 'problem':
    case 'loss':
      return `${telling.tell} ${telling.problem.code}`
    case 'inside':
      return 'inside'
  }
}

function chosen({ side, made, source }: Choice): string {
  const text = made ?? source
  return text === undefined ? `of ${SIDE_NAMES[side]}` : `made ${brief(text)}`
}

function sliceOf(side: Side, nodes: Triple<number>, docs: Docs): string {
  return brief(docs[side].slice(nodes[side]))
}
