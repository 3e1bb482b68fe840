import { isRepeatable, Kind } from '../document/kind.ts'
import { sameName } from '../document/same-text.ts'
import type { Tree } from '../document/tree.ts'
import type { Doc } from '../formats/doc.ts'

/** The place of a child under a place: keys without identities, joined by `/`; the root's is ''. */
export function placeOf(parent: string, name: string): string {
  return parent === '' ? name : `${parent}/${name}`
}

/** The place of what a node holds: its own name added, where it has one that is part of a place. */
export function placeInside(doc: Doc, node: number, place: string): string {
  switch (doc.kind(node)) {
    case Kind.Attribute:
      return placeOf(place, `@${doc.name(node)}`)
    case Kind.Member:
    case Kind.Section:
    case Kind.Property:
      return placeOf(place, doc.foldedName(node))
    case Kind.Element:
      return node === doc.root() ? place : placeOf(place, doc.name(node))
    default:
      return place
  }
}

/** A place as that of its container and its own last step. */
export function splitPlace(place: string): [parent: string, name: string] {
  const at = place.lastIndexOf('/')
  return [place.slice(0, Math.max(0, at)), place.slice(at + 1)]
}

function stepsOf(place: string): string[] {
  return place === '' ? [] : place.split('/')
}

/** All nodes that stand at a place: elements, or values of members; what arrays on the way hold is gone through. */
function nodesAt(doc: Doc, place: string): number[] {
  const root = doc.root()
  let nodes = root < 0 ? [] : [root]
  for (const step of stepsOf(place)) nodes = valuesNamed(doc, throughArrays(doc, nodes), step)
  return nodes
}

/** The elements, or the sections, of a name, of each container at a place. */
export function namedOfEach(doc: Doc, place: string, name: string): number[][] {
  return nodesAt(doc, place).map((container) =>
    valuesNamed(doc, [container], name).filter((node) => isRepeatable(doc.kind(node))),
  )
}

/** The items of some kinds, of each array at a place. */
export function itemsOfEach(doc: Doc, place: string, kinds: readonly Kind[]): number[][] {
  return nodesAt(doc, place)
    .filter((node) => doc.kind(node) === Kind.Array)
    .map((array) => doc.children(array).filter((item) => kinds.includes(doc.kind(item))))
}

/** Child elements, and values of members, of that name. */
function valuesNamed(doc: Doc, parents: readonly number[], name: string): number[] {
  return parents.flatMap((parent) =>
    doc
      .childrenNamed(parent, name)
      .map((child) => (doc.kind(child) === Kind.Member ? doc.memberValue(child) : child)),
  )
}

/** The nodes that are meant where arrays stand between: their items, at any depth. */
function throughArrays(doc: Doc, nodes: readonly number[]): number[] {
  const found: number[] = []
  const waiting = [...nodes].reverse()
  for (let node = waiting.pop(); node !== undefined; node = waiting.pop()) {
    if (doc.kind(node) !== Kind.Array) found.push(node)
    else for (const child of doc.children(node).reverse()) waiting.push(child)
  }
  return found
}

/**
 * The names of which two elements or sections stand in one container anywhere at a place, in any of the documents.
 * Without capitals where the format takes them for one.
 * What was copied from the first document is as it is there, and looked at once.
 */
export function repeatedNames(docs: readonly Doc[], place: string): Set<string> {
  const repeated = new Set<string>()
  const [first] = docs
  for (const doc of docs) {
    const root = doc.root()
    if (root < 0) continue
    const like = doc === first ? undefined : first?.tree
    collectRepeated({ doc, like, repeated }, root, stepsOf(place), 0)
  }
  return repeated
}

interface Search {
  doc: Doc
  /** The tree of the document that was looked at already. */
  like: Tree | undefined
  repeated: Set<string>
}

function collectRepeated(search: Search, node: number, steps: readonly string[], at: number): void {
  const { doc, like } = search
  const { tree } = doc
  if (like !== undefined && tree.originOf(node, like) >= 0) return
  const step = steps[at]
  if (step === undefined) {
    addRepeated(search, node)
    return
  }
  const stop = tree.next(node)
  for (let child = node + 1; child < stop; child = tree.next(child)) {
    if (tree.kind(child) === Kind.Element && doc.isNamed(child, step))
      collectRepeated(search, child, steps, at + 1)
  }
}

/** Names that are compared in place; of a container with more, they are cut out. */
const FEW = 16

function addRepeated({ doc, repeated }: Search, node: number): void {
  const { tree } = doc
  const { format } = doc
  const seen: number[] = []
  let names: Set<string> | undefined
  // the first of a run of one name, and the one whose name was found to be repeated
  let [previous, told] = [-1, -1]
  const stop = tree.next(node)
  for (let child = node + 1; child < stop; child = tree.next(child)) {
    if (!isRepeatable(tree.kind(child))) continue
    if (previous >= 0 && sameName(tree, previous, tree, child)) {
      if (told !== previous) repeated.add(doc.foldedName(child))
      told = previous
      continue
    }
    previous = child
    if (seen.length < FEW && !format.foldsCase) {
      if (seen.some((other) => sameName(tree, child, tree, other))) repeated.add(doc.name(child))
      else seen.push(child)
      continue
    }
    const name = doc.foldedName(child)
    names ??= new Set()
    if (names.has(name) || seen.some((other) => doc.isNamed(other, name))) repeated.add(name)
    names.add(name)
  }
}
