import picomatch from 'picomatch'
import { slashed } from '../../core/keys/slashed.ts'

/**
 * Whether a path is meant by a pattern, or by one of several, whatever the capitals are: most disks do not tell
 * them apart.
 */
export function pathPattern(pattern: string | readonly string[]): (path: string) => boolean {
  const patterns = typeof pattern === 'string' ? [pattern] : pattern
  return picomatch(patterns.map(slashed), { dot: true, nocase: true })
}
