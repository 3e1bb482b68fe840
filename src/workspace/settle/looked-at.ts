import { pathPattern } from '../config/path-pattern.ts'
import type { DraftGroup } from '../draft/draft.ts'

/** Whether a group of changes is meant by a pattern: its own, with its file before it or not, or one for files. */
export function isLookedAt({ path, pattern }: DraftGroup, asked: string): boolean {
  if (asked === 'all' || asked === pattern || asked === `${path}: ${pattern}`) return true
  return path !== '' && pathPattern(asked)(path)
}
