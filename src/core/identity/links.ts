import { LEAST_ECHOED } from '../document/echo.ts'
import type { Tree } from '../document/tree.ts'

/** So far ahead it is looked for where two sequences meet again. */
const LOOK_AHEAD = 8

/** The nodes of a sequence, in one document. */
export interface NodeSequence {
  tree: Tree
  nodes: readonly number[]
}

/**
 * For each node of `b` the one of `a` that has the same text, as far as they follow each other in both;
 * -1 for all others. What is worked out for the one holds for the other, so that it need not be worked
 * out again: most of a release is as it was.
 */
export function linkEqual(a: NodeSequence, b: NodeSequence): Int32Array {
  const links = new Int32Array(b.nodes.length).fill(-1)
  const hasCopies = b.tree.hasCopiesOf(a.tree)
  let i = 0
  for (let j = 0; j < b.nodes.length && i < a.nodes.length; j++) {
    const node = b.nodes[j] ?? 0
    const origin = hasCopies ? b.tree.originOf(node, a.tree) : -1
    if (origin >= 0) {
      while (i < a.nodes.length && (a.nodes[i] ?? 0) < origin) i++
      if (a.nodes[i] === origin) links[j] = i++
      continue
    }
    // what is longer and the same was found when it was read
    if (hasCopies && (b.tree.end[node] ?? 0) - (b.tree.start[node] ?? 0) >= LEAST_ECHOED) continue
    const [skipA, skipB] = meeting(a, i, b, j)
    i += skipA
    j += skipB
    if (i < a.nodes.length && j < b.nodes.length && sameText(a, i, b, j)) links[j] = i
    i++
  }
  return links
}

/** How many of each sequence to leave out so that the next two are equal; none where that is not near. */
function meeting(a: NodeSequence, i: number, b: NodeSequence, j: number): [number, number] {
  if (sameText(a, i, b, j)) return [0, 0]
  for (let ahead = 1; ahead <= LOOK_AHEAD; ahead++) {
    if (j + ahead < b.nodes.length && sameText(a, i, b, j + ahead)) return [0, ahead]
    if (i + ahead < a.nodes.length && sameText(a, i + ahead, b, j)) return [ahead, 0]
  }
  return [0, 0]
}

function sameText(a: NodeSequence, i: number, b: NodeSequence, j: number): boolean {
  return sameSlice(a.tree, a.nodes[i] ?? 0, b.tree, b.nodes[j] ?? 0)
}

/** Whether two nodes have the same name as it stands in the source, without cutting it out. */
export function sameName(a: Tree, nodeA: number, b: Tree, nodeB: number): boolean {
  const [startA, startB] = [a.start[nodeA] ?? 0, b.start[nodeB] ?? 0]
  const length = (a.nameEnd[nodeA] ?? 0) - startA
  if (length !== (b.nameEnd[nodeB] ?? 0) - startB) return false
  // the last code units first: names in one container mostly begin alike
  for (let i = length - 1; i >= 0; i--)
    if (a.source.charCodeAt(startA + i) !== b.source.charCodeAt(startB + i)) return false
  return true
}

/** Whether two nodes have the same text. */
export function sameSlice(a: Tree, nodeA: number, b: Tree, nodeB: number): boolean {
  if (a === b && nodeA === nodeB) return true
  if (b.originOf(nodeB, a) === nodeA) return true
  const startA = a.start[nodeA] ?? 0
  const startB = b.start[nodeB] ?? 0
  const length = (a.end[nodeA] ?? 0) - startA
  if (length !== (b.end[nodeB] ?? 0) - startB) return false
  return a.source.slice(startA, startA + length) === b.source.slice(startB, startB + length)
}
