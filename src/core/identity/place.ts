import { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'

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

/** Whether anywhere at a place two elements of that name stand in one container. */
export function hasSiblings(doc: Doc, place: string, name: string): boolean {
  const steps = place === '' ? [name] : [...place.split('/'), name]
  return hasSiblingsBelow(doc, doc.root(), steps, 0)
}

function hasSiblingsBelow(doc: Doc, node: number, steps: readonly string[], at: number): boolean {
  if (node < 0) return false
  const { tree } = doc
  const step = steps[at] ?? ''
  const isLast = at === steps.length - 1
  const stop = tree.next[node] ?? 0
  let count = 0
  for (let child = node + 1; child < stop; child = tree.next[child] ?? stop) {
    if (tree.kind[child] !== Kind.Element || !isNamed(doc, child, step)) continue
    if (isLast ? ++count > 1 : hasSiblingsBelow(doc, child, steps, at + 1)) return true
  }
  return false
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
