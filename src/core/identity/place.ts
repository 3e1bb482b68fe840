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
      if (doc.kind(child) === Kind.Element && isNamed(doc, child, name)) found.push(child)
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
    collectRepeated({ doc, like, repeated }, doc.root(), steps, 0)
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
  const { doc, like, repeated } = search
  const { tree } = doc
  if (node < 0 || (like !== undefined && tree.originOf(node, like) >= 0)) return
  const step = steps[at]
  if (step === undefined) {
    addRepeated(doc, node, repeated)
    return
  }
  const stop = tree.next[node] ?? 0
  for (let child = node + 1; child < stop; child = tree.next[child] ?? stop) {
    if (tree.kind[child] === Kind.Element && isNamed(doc, child, step))
      collectRepeated(search, child, steps, at + 1)
  }
}

/** Names that are compared in place; of a container with more, they are cut out. */
const FEW = 16

function addRepeated(doc: Doc, node: number, repeated: Set<string>): void {
  const { tree } = doc
  const seen: number[] = []
  let names: Set<string> | undefined
  const stop = tree.next[node] ?? 0
  for (let child = node + 1; child < stop; child = tree.next[child] ?? stop) {
    if (tree.kind[child] !== Kind.Element) continue
    if (seen.length < FEW) {
      if (seen.some((other) => sameName(tree, child, tree, other))) repeated.add(doc.name(child))
      else seen.push(child)
      continue
    }
    const name = doc.name(child)
    names ??= new Set()
    if (names.has(name) || seen.some((other) => isNamed(doc, other, name))) repeated.add(name)
    names.add(name)
  }
}

/** Whether an element has a name, without cutting it out. */
function isNamed({ tree }: Doc, element: number, name: string): boolean {
  const start = (tree.start[element] ?? 0) + 1
  return (tree.nameEnd[element] ?? 0) - start === name.length && tree.source.startsWith(name, start)
}

function membersNamed(doc: Doc, objects: readonly number[], name: string): number[] {
  const found: number[] = []
  for (const object of objects) {
    for (const child of doc.children(object)) {
      if (doc.kind(child) === Kind.Member && doc.name(child) === name)
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
