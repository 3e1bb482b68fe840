import { gather } from '../document/gather.ts'
import { HOLDING, Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'
import { customarySteps, isId } from '../identity/candidates.ts'
import type { IdentityExpression } from '../identity/expression.ts'
import { identityOf, parseIdentity } from '../identity/expression.ts'
import type { Identities } from '../identity/identities.ts'
import type { Inferred } from '../identity/infer.ts'
import { nodeSegment } from '../identity/node-segment.ts'
import { placeOf } from '../identity/place.ts'
import { identitySegment, joinKey } from '../keys/key.ts'

/** What begins the number of a value in the place of a name. */
export const BY_VALUE = '\0'
/** An entry without an id holds so much, if it is to be known again. */
export const LEAST_PARTS = 3

/** An entry that an identity or its name tells, and where it stands. */
export interface Placed {
  node: number
  /** Whether nothing but the name of a member, or of an element, tells it: others may have that by chance. */
  isByName: boolean
  /** The node of its container, and that one's key without the indices of nameless items. */
  within: number
  container: string
  key: string
  place: string
  /** All that stand beside it, itself among them. */
  siblings: readonly number[]
}

/** The entries of a document by what tells them. */
export type ByName = ReadonlyMap<string, readonly Placed[]>

/** The entries that are looked for. */
export interface Sought {
  /** What they are called; `all` where that is not known. */
  ids: ReadonlySet<string> | 'all'
  /** The names of their elements and members; `all` where these are not known. */
  names: ReadonlySet<string> | 'all'
  /** The texts of entries of old that both dropped where they were: without a name what is equal is one. */
  dropped: ReadonlySet<string>
}

/** A container or an entry on the way to another, and what tells it: an identity, or its place among its siblings. */
interface Step {
  around: Step | undefined
  node: number
  identity?: IdentityExpression | undefined
  index?: number
}

/** The container of an entry, the place of what the entry holds, and what stands beside it. */
interface Beside extends Pick<Placed, 'place' | 'siblings'> {
  container: number
}

/** What is told from its siblings by its name. */
const KEYED: ReadonlySet<Kind> = new Set([Kind.Member, Kind.Property, Kind.Section])

/** Finds entries of a document that are called so, with where they stand. */
export class Placer {
  private readonly found = new Map<string, Placed[]>()

  constructor(
    private readonly doc: Doc,
    private readonly identities: Identities,
    private readonly sought: Sought,
  ) {}

  run(): ByName {
    const root = this.doc.root()
    if (root >= 0) this.inside(root, undefined, '')
    return this.found
  }

  private isSoughtName(name: string): boolean {
    const { names } = this.sought
    return names === 'all' || names.has(name)
  }

  private inside(container: number, around: Step | undefined, place: string): void {
    const { doc } = this
    const byGroup = new Map<string, number[]>()
    const children = doc.children(container)
    for (const child of children) {
      const kind = doc.kind(child)
      if (KEYED.has(kind)) {
        const name = doc.foldedName(child)
        const named = kind === Kind.Section ? this.identities.ofNamed(place, name) : undefined
        const step: Step = { around, node: child, identity: named?.identity }
        const own = placeOf(place, name)
        const held = kind === Kind.Member ? doc.memberValue(child) : child
        const at = { place: own, container, siblings: children }
        if (this.isSoughtName(name)) this.place(`${kind}:${doc.kind(held)}:${name}`, step, at, true)
        if (HOLDING.has(doc.kind(held))) this.inside(held, step, own)
      } else if (kind === Kind.Object || kind === Kind.Array) gather(byGroup, `${kind}:`, child)
      else if (kind === Kind.Element) {
        const name = doc.name(child)
        // most elements are values, and no entry stands in them
        if (this.isSoughtName(name) || !doc.isLeafElement(child))
          gather(byGroup, `${kind}:${name}`, child)
      }
    }
    for (const [group, siblings] of byGroup)
      this.siblings(group, siblings, { around, place, container })
  }

  private siblings(
    group: string,
    siblings: readonly number[],
    { around, place, container }: { around: Step | undefined; place: string; container: number },
  ): void {
    const { doc } = this
    const [first = -1] = siblings
    const kind = doc.kind(first)
    const name = doc.name(first)
    const chosen =
      kind === Kind.Object || kind === Kind.Array
        ? this.identities.ofItems(place, kind)
        : this.identities.ofNamed(place, name)
    const own = kind === Kind.Element ? placeOf(place, name) : place
    const isSought = kind !== Kind.Element || this.isSoughtName(name)
    for (const [index, node] of siblings.entries()) {
      const step: Step = { around, node, identity: chosen?.identity, index }
      // of several nothing tells which one moved; the second says that the first is not alone
      const isByName = kind === Kind.Element && index < 2
      if (isSought)
        this.entry(group, step, { place: own, container, siblings }, { chosen, isByName })
      this.inside(node, step, own)
    }
  }

  /** Keeps an entry by its id; by what it holds, and by its name, where it has none. */
  private entry(
    group: string,
    step: Step,
    at: Beside,
    { chosen, isByName }: { chosen: Inferred | undefined; isByName: boolean },
  ): void {
    const { ids } = this.sought
    const id = this.idOf(step.node, chosen)
    if (id !== undefined) {
      if (ids === 'all' || ids.has(id)) this.place(`${group} ${id}`, step, at, false)
      return
    }
    const value = this.valueOf(step.node)
    if (value !== undefined) this.place(`${group} ${value}`, step, at, false)
    if (isByName) this.place(group, step, at, true)
  }

  private place(name: string, step: Step, at: Beside, isByName: boolean): void {
    gather(this.found, name, {
      node: step.node,
      within: at.container,
      container: this.keyOf(step.around, () => ''),
      key: this.keyOf(step),
      place: at.place,
      siblings: at.siblings,
      isByName,
    })
  }

  /** What an entry without an id holds, if such are looked for and it is not little, which is the same by chance. */
  private valueOf(node: number): string | undefined {
    if (this.sought.dropped.size === 0) return undefined
    const value = this.identities.known.values.of(this.doc, node)
    return value.parts.length < LEAST_PARTS ? undefined : `${BY_VALUE}${value.id}`
  }

  /** What names an entry; where nothing strong was inferred, as of one that stands alone, an id of its own. */
  private idOf(node: number, chosen: Inferred | undefined): string | undefined {
    if (chosen?.isStrong === true) return identityOf(this.doc, node, chosen.identity)?.join('|')
    return ownId(this.doc, node)
  }

  /** @param nameless what stands for an item that no identity tells; the index of a container may change, not the container */
  private keyOf(step: Step | undefined, nameless = (item: Step) => String(item.index)): string {
    if (step === undefined) return ''
    const segment = nodeSegment(this.doc, step.node, step.identity)
    const named = segment === '' ? identitySegment([nameless(step)]) : segment
    return joinKey(this.keyOf(step.around, nameless), named)
  }
}

/** The id that an entry has by custom, whatever names those beside it; undefined where it has none. */
export function ownId(doc: Doc, node: number): string | undefined {
  const step = customarySteps(doc, node).find(isId)
  return step === undefined ? undefined : identityOf(doc, node, parseIdentity(step))?.join('|')
}
