/**
 * A pattern of paths as paths are written here: with `/` between folders, and from the folder that it belongs to.
 * A `\` is what parts folders, as Windows writes that, but before brackets, which it lets stand for themselves.
 */
export function slashed(pattern: string): string {
  return pattern.replace(/\\(?![[\](){}])/g, '/').replace(/^\.\//, '')
}
