import { clip, widthOf } from '../text.ts'

/** A line that is no wider than a width; colours in it are kept where it fits. */
export function fitted(line: string, width: number): string {
  if (widthOf(line) <= width) return line
  return clip(line.replace(/\u001b\[[\d;]*m/g, ''), width)
}
