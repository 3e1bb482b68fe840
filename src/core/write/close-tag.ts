import type { Side } from '../document/sides.ts'
import type { WriteContext } from './context.ts'

/** Writes an element's close tag from one side, with another name where the element was renamed. */
export function writeClose(
  { docs, writer }: Pick<WriteContext, 'docs' | 'writer'>,
  side: Side,
  node: number,
  name: string | undefined,
): void {
  const { tree } = docs[side]
  const [start, end] = [tree.bodyEnd(node), tree.end(node)]
  const ownName = docs[side].name(node)
  if (name === undefined || name === '' || name === ownName || start === end) {
    writer.slice(side, start, end)
    return
  }
  writer.slice(side, start, start + 2)
  writer.made(name)
  writer.slice(side, start + 2 + ownName.length, end)
}
