/**
 * A key that is asked for in one of several files: `rules/dive.json:limits/oxygen`, with `\` for `/` in the path and in any
 * capitals, or the key alone, which any file may have.
 */
export function keyInFile(path: string, asked: string): string {
  const named = asked.slice(0, path.length).replaceAll('\\', '/').toLowerCase()
  const isOfFile = asked[path.length] === ':' && named === path.toLowerCase()
  return isOfFile ? asked.slice(path.length + 1).trim() : asked
}
