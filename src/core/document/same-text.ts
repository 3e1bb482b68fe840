import type { Tree } from './tree.ts'

/** Whether two nodes have the same name as it stands in the source, without cutting it out. */
export function sameName(a: Tree, nodeA: number, b: Tree, nodeB: number): boolean {
  const [startA, startB] = [a.start(nodeA), b.start(nodeB)]
  const length = a.nameEnd(nodeA) - startA
  if (length !== b.nameEnd(nodeB) - startB) return false
  // the last code units first: names in one container mostly begin alike
  for (let i = length - 1; i >= 0; i--)
    if (a.source.charCodeAt(startA + i) !== b.source.charCodeAt(startB + i)) return false
  return true
}

/** Whether two nodes have the same text. */
export function sameSlice(a: Tree, nodeA: number, b: Tree, nodeB: number): boolean {
  if (a === b && nodeA === nodeB) return true
  if (b.originOf(nodeB, a) === nodeA) return true
  const [startA, startB] = [a.start(nodeA), b.start(nodeB)]
  const length = a.end(nodeA) - startA
  if (length !== b.end(nodeB) - startB) return false
  return a.source.slice(startA, startA + length) === b.source.slice(startB, startB + length)
}
