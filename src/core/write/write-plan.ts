import { countLineEnds } from '../document/characters.ts'
import { Kind } from '../document/kind.ts'
import { pick } from '../document/pick.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, triple } from '../document/sides.ts'
import { attributesEnd } from '../document/unit-list.ts'
import type { Doc } from '../formats/doc.ts'
import type { ElementPlan, LeafPlan, MemberPlan, Plan, TakePlan, TextPlan } from '../plan/plan.ts'
import { textFrame } from '../plan/plan-element.ts'
import { valueStart } from '../plan/value-start.ts'
import type { WriteContext } from './context.ts'
import type { Fits } from './indent.ts'
import { fitText, indentStep, NOTHING_FITTED } from './indent.ts'
import { writeClose } from './close-tag.ts'
import { writeList } from './write-list.ts'
import { Writer } from './writer.ts'

/** The form of a text that is put together. */
export interface WriteOptions {
  /** What a made line end is. */
  lineEnd: string
  /** Which of the documents there are: a file that both brought has no old. */
  present: Triple<boolean>
}

/** The text of a plan: slices of the documents, and between them what has to be made. */
export function writePlan(plan: Plan, docs: Triple<Doc>, options: WriteOptions): string {
  const writing = new PlanWriter(docs, options)
  writing.write(plan, NOTHING_FITTED)
  return writing.writer.text()
}

class PlanWriter implements WriteContext {
  readonly writer: Writer
  readonly lineEnd: string
  endsInFreeComment = false
  private knownSteps: WriteContext['steps'] | undefined

  constructor(
    readonly docs: Triple<Doc>,
    private readonly options: WriteOptions,
  ) {
    this.writer = new Writer(docs)
    this.lineEnd = options.lineEnd
  }

  /** Worked out when something is to be fitted. */
  get steps(): WriteContext['steps'] {
    if (this.knownSteps !== undefined) return this.knownSteps
    const { docs } = this
    const steps = triple((side) =>
      this.options.present[side] ? indentStep(docs[side].tree, docs[side].lines) : undefined,
    )
    const result = pick(steps) ?? '  '
    this.knownSteps = { inputs: triple((side) => steps[side] ?? result), result }
    return this.knownSteps
  }

  write(plan: Plan, fits: Fits): void {
    switch (plan.do) {
      case 'take':
        this.take(plan, fits)
        break
      case 'leaf':
        this.leaf(plan)
        break
      case 'member':
        this.member(plan, fits)
        break
      case 'element':
        this.element(plan)
        break
      case 'list':
        writeList(this, plan)
        break
      case 'made':
        this.writer.made(plan.text)
        break
    }
  }

  private take({ side, nodes }: TakePlan, fits: Fits): void {
    const { tree } = this.docs[side]
    const [start, end] = [tree.start(nodes[side]), tree.end(nodes[side])]
    const fit = side === MINE ? undefined : fits[side]
    if (fit === undefined) this.writer.slice(side, start, end)
    else this.writer.made(fitText(tree, start, end, fit, false))
    this.wrote(side, nodes[side])
  }

  wrote(side: Side, node: number): void {
    const { tree } = this.docs[side]
    const last = tree.next(node) - 1
    const inSection =
      tree.kind(node) === Kind.Section &&
      tree.kind(last) === Kind.Comment &&
      countLineEnds(tree.source, tree.bodyStart(node), tree.start(last)) > 0
    this.endsInFreeComment = tree.kind(node) === Kind.Comment || inSection
  }

  private leaf({ nodes, lead, value }: LeafPlan): void {
    const { docs, writer } = this
    const node = nodes[lead]
    writer.slice(lead, docs[lead].tree.start(node), valueStart(docs[lead], node))
    const { side, made, source } = value
    const { tree } = docs[side]
    const [start, end] = [valueStart(docs[side], nodes[side]), tree.end(nodes[side])]
    if (source !== undefined) {
      writer.made(source)
      return
    }
    if (made === undefined) {
      writer.slice(side, start, end)
      return
    }
    writer.slice(side, start, tree.bodyStart(nodes[side]))
    writer.made(made)
    writer.slice(side, tree.bodyEnd(nodes[side]), end)
  }

  private member({ nodes, lead, value }: MemberPlan, fits: Fits): void {
    const doc = this.docs[lead]
    const node = nodes[lead]
    this.writer.slice(lead, doc.tree.start(node), doc.tree.start(doc.memberValue(node)))
    this.write(value, fits)
  }

  private element(plan: ElementPlan): void {
    const { docs, writer } = this
    const { nodes, name, attributes, content } = plan
    const { tree } = docs[name]
    writer.slice(name, tree.start(nodes[name]), tree.nameEnd(nodes[name]))
    if (typeof attributes === 'object') writeList(this, attributes)
    else {
      const own = docs[attributes].tree
      const node = nodes[attributes]
      writer.slice(attributes, own.nameEnd(node), attributesEnd(own, node))
    }
    if (content.do === 'list') writeList(this, content)
    else if (content.do === 'text') this.text(content, plan)
    else {
      const { side } = content
      const own = docs[side].tree
      writer.slice(side, attributesEnd(own, nodes[side]), own.bodyEnd(nodes[side]))
      writeClose(this, side, nodes[side], docs[name].name(nodes[name]))
    }
  }

  /** `>`, outer blanks, text, outer blanks, close tag; or all of one side, where that closes itself. */
  private text({ nodes, value, form }: TextPlan, element: ElementPlan): void {
    const { docs, writer } = this
    const frameOf = (side: Side): ReturnType<typeof textFrame> => {
      const { tree } = docs[side]
      return textFrame(tree, nodes[side], attributesEnd(tree, nodes[side]))
    }
    const { side, made = value.source } = value
    if (form === undefined) {
      const { tree } = docs[side]
      writer.slice(side, attributesEnd(tree, nodes[side]), tree.end(nodes[side]))
      return
    }
    const { before } = frameOf(form.before)
    writer.slice(form.before, before.start, before.end)
    const chosen = frameOf(side)
    if (made === undefined) writer.slice(side, chosen.before.end, chosen.after.start)
    else writer.made(made)
    const { after } = frameOf(form.after)
    writer.slice(form.after, after.start, after.end)
    const { name } = element
    const ownName = name === form.close ? undefined : docs[name].name(element.nodes[name])
    writeClose(this, form.close, nodes[form.close], ownName)
  }
}
