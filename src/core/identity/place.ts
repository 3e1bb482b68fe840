import { Kind } from '../document/kind.ts'
import type { Tree } from '../document/tree.ts'
import type { Doc } from '../formats/doc.ts'
import { sameName } from './links.ts'

/** The place of a child under a place: keys without identities, joined by `/`; the root's is ''. */
export function placeOf(parent: string, name: string): string {
  return parent === '' ? name : `${parent}/${name}`
}

/** All containers that stand at a place: elements in XML, arrays in JSON. */
export function containersAt(doc: Doc, place: string): number[] {
  let nodes = doc.format.name === 'json' ? throughArrays(doc, [doc.root()]) : [doc.root()]
  const steps = place === '' ? [] : place.split('/')
  for (const [i, step] of steps.entries()) {
    nodes =
      doc.format.name === 'json' ? membersNamed(doc, nodes, step) : elementsNamed(doc, nodes, step)
    if (doc.format.name === 'json' && i < steps.length - 1) nodes = throughArrays(doc, nodes)
  }
  if (doc.format.name !== 'json') return nodes
  const values = steps.length === 0 ? [doc.root()] : nodes
  return values.filter((node) => doc.kind(node) === Kind.Array)
}

/** Child elements of that name. */
export function elementsNamed(doc: Doc, parents: readonly number[], name: string): number[] {
  const found: number[] = []
  for (const parent of parents) {
    for (const child of doc.children(parent)) {
      if (doc.kind(child) === Kind.Element && doc.isNamed(child, name)) found.push(child)
    }
  }
  return found
}

/**
 * The names of which two elements stand in one container anywhere at a place, in any of the documents.
 * What was copied from the first document is as it is there, and looked at once.
 */
export function repeatedNames(docs: readonly Doc[], place: string): Set<string> {
  const repeated = new Set<string>()
  const [first] = docs
  for (const doc of docs) {
    const like = doc === first ? undefined : first?.tree
    const steps = place === '' ? [] : place.split('/')
    collectRepeated({ doc, like, repeated, last: -1 }, doc.root(), steps, 0)
  }
  return repeated
}

interface Search {
  doc: Doc
  /** The tree of the document that was looked at already. */
  like: Tree | undefined
  repeated: Set<string>
  /** The container that was looked at last. */
  last: number
}

function collectRepeated(search: Search, node: number, steps: readonly string[], at: number): void {
  const { doc, like } = search
  const { tree } = doc
  if (node < 0 || (like !== undefined && tree.originOf(node, like) >= 0)) return
  const step = steps[at]
  if (step === undefined) {
    addRepeated(search, node)
    return
  }
  const stop = tree.next[node] ?? 0
  for (let child = node + 1; child < stop; child = tree.next[child] ?? stop) {
    if (tree.kind[child] === Kind.Element && doc.isNamed(child, step))
      collectRepeated(search, child, steps, at + 1)
  }
}

/** Names that are compared in place; of a container with more, they are cut out. */
const FEW = 16

function addRepeated(search: Search, node: number): void {
  const { doc, repeated } = search
  const { tree } = doc
  // most containers of a place have the names that the one before has, in its order
  if (search.last >= 0 && haveSameNames(tree, search.last, node)) return
  search.last = node
  const seen: number[] = []
  let names: Set<string> | undefined
  // the first of a run of one name, and the one whose name was found to be repeated
  let [previous, told] = [-1, -1]
  const stop = tree.next[node] ?? 0
  for (let child = node + 1; child < stop; child = tree.next[child] ?? stop) {
    if (tree.kind[child] !== Kind.Element) continue
    if (previous >= 0 && sameName(tree, previous, tree, child)) {
      if (told !== previous) repeated.add(doc.name(child))
      told = previous
      continue
    }
    previous = child
    if (seen.length < FEW) {
      if (seen.some((other) => sameName(tree, child, tree, other))) repeated.add(doc.name(child))
      else seen.push(child)
      continue
    }
    const name = doc.name(child)
    names ??= new Set()
    if (names.has(name) || seen.some((other) => doc.isNamed(other, name))) repeated.add(name)
    names.add(name)
  }
}

/** Whether two containers have elements of the same names in the same order. */
function haveSameNames(tree: Tree, a: number, b: number): boolean {
  const [stopA, stopB] = [tree.next[a] ?? 0, tree.next[b] ?? 0]
  let [childA, childB] = [nextElement(tree, a + 1, stopA), nextElement(tree, b + 1, stopB)]
  while (childA < stopA && childB < stopB) {
    if (!sameName(tree, childA, tree, childB)) return false
    childA = nextElement(tree, tree.next[childA] ?? stopA, stopA)
    childB = nextElement(tree, tree.next[childB] ?? stopB, stopB)
  }
  return childA >= stopA && childB >= stopB
}

/** The first element from a sibling on; `stop` where there is none. */
function nextElement({ kind, next }: Tree, from: number, stop: number): number {
  let node = from
  while (node < stop && kind[node] !== Kind.Element) node = next[node] ?? stop
  return node
}

function membersNamed(doc: Doc, objects: readonly number[], name: string): number[] {
  const found: number[] = []
  for (const object of objects) {
    for (const child of doc.children(object)) {
      if (doc.kind(child) === Kind.Member && doc.isNamed(child, name))
        found.push(doc.memberValue(child))
    }
  }
  return found
}

/** The objects that are meant where arrays stand between: their items, at any depth. */
function throughArrays(doc: Doc, nodes: readonly number[]): number[] {
  const found: number[] = []
  const waiting = [...nodes].reverse()
  for (let node = waiting.pop(); node !== undefined; node = waiting.pop()) {
    if (node < 0) continue
    const kind = doc.kind(node)
    if (kind === Kind.Object) found.push(node)
    else if (kind === Kind.Array) waiting.push(...doc.children(node).reverse())
  }
  return found
}
