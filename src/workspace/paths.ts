import nodePath from 'node:path'

/** The rules of paths of one system; those of this one by default, and those of others for tests. */
export type PathRules = Pick<
  typeof nodePath,
  'relative' | 'resolve' | 'sep' | 'isAbsolute' | 'normalize'
>

/** Whether two paths name one place: on Windows whatever their capitals are. */
export function isSamePath(one: string, other: string, rules: PathRules = nodePath): boolean {
  return folded(one, rules) === folded(other, rules)
}

/** Whether a path lies in a folder, or is that folder. */
export function isInside(inner: string, outer: string, rules: PathRules = nodePath): boolean {
  const way = rules.relative(folded(outer, rules), folded(inner, rules))
  // a path on another drive has no way there, and stays absolute
  return way !== '..' && !way.startsWith(`..${rules.sep}`) && !rules.isAbsolute(way)
}

/** A folder as the config of a workspace names it: from the root, with `/`, where it is inside; else as a whole. */
export function nameFrom(root: string, folder: string, rules: PathRules = nodePath): string {
  const whole = rules.resolve(folder)
  if (isSamePath(root, whole, rules)) return '.'
  if (!isInside(whole, root, rules)) return whole
  return rules.relative(root, whole).split(rules.sep).join('/')
}

function folded(path: string, rules: PathRules): string {
  const whole = rules.resolve(path)
  return rules.sep === '\\' ? whole.toLowerCase() : whole
}

/** A path of a file in a tree as the program names it: with `/`, and without `./` before it. */
export function asTreePath(path: string): string {
  return path.replaceAll('\\', '/').replace(/^(\.\/)+/, '')
}
