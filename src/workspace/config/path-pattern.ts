import picomatch from 'picomatch'

/**
 * Whether a path is meant by a pattern, or by one of several, whatever the capitals are: most disks do not tell
 * them apart. A `\` is what parts folders, as Windows writes that, but before brackets, which it lets stand for themselves.
 */
export function pathPattern(pattern: string | readonly string[]): (path: string) => boolean {
  const patterns = typeof pattern === 'string' ? [pattern] : pattern
  const slashed = patterns.map((each) => each.replace(/\\(?![[\](){}])/g, '/').replace(/^\.\//, ''))
  return picomatch(slashed, { dot: true, nocase: true })
}
