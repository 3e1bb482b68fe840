import type { Policy } from '../../core/facts/setup.ts'
import type { Take } from '../config/config.ts'

interface Sort {
  take: Take
  reason: string
  /** Names of folders that hold nothing else, in small letters. */
  folders: readonly string[]
  extensions: readonly string[]
}

/** What is no matter of merging, the surest first. */
const SORTS: readonly Sort[] = [
  {
    take: 'vanilla',
    reason: 'programs and libraries: an update brings its own',
    folders: ['bin', 'binaries', 'lib', 'libraries', 'runtime'],
    extensions: ['exe', 'dll', 'so', 'dylib', 'jar', 'pdb', 'sys'],
  },
  {
    take: 'leave-out',
    reason: 'what the game writes down as it runs: nobody needs it in the next release',
    folders: ['log', 'logs', 'crash', 'crashes', 'dumps', 'cache', 'temp', 'tmp'],
    extensions: ['log', 'dmp', 'mdmp', 'tmp', 'pid', 'lock'],
  },
  {
    take: 'mine',
    reason: 'what was saved and belongs to players: no update has it',
    folders: [
      'save',
      'saves',
      'saved',
      'savegames',
      'worlds',
      'players',
      'profiles',
      'accounts',
      'divers',
      'bans',
    ],
    extensions: ['sav', 'save', 'db', 'sqlite', 'sqlite3'],
  },
]

/**
 * Policies for what a folder holds: for a folder whose name says what is in it, else for extensions. Only
 * for what is there; for all else a merge is right.
 *
 * @param paths relative, with `/`
 */
export function proposePolicies(paths: readonly string[]): Policy[] {
  const policies: Policy[] = []
  const taken = new Set<string>()
  for (const sort of SORTS) {
    for (const folder of foldersNamed(paths, sort.folders)) {
      const inside = paths.filter((path) => path.startsWith(`${folder}/`) && !taken.has(path))
      if (inside.length === 0) continue
      for (const path of inside) taken.add(path)
      policies.push({ ...sortOf(sort), match: `${escaped(folder)}/**`, files: inside.length })
    }
  }
  for (const sort of SORTS) {
    const rest = paths.filter(
      (path) => !taken.has(path) && sort.extensions.includes(extensionOf(path)),
    )
    const found = [...new Set(rest.map(extensionOf))].sort()
    if (found.length === 0) continue
    for (const path of rest) taken.add(path)
    const [only = ''] = found
    const match = found.length === 1 ? `**/*.${only}` : `**/*.{${found.join(',')}}`
    policies.push({ ...sortOf(sort), match, files: rest.length })
  }
  return policies
}

function sortOf({ take, reason }: Sort): Pick<Policy, 'take' | 'reason'> {
  return { take, reason }
}

/** The outermost folders of these names. */
function foldersNamed(paths: readonly string[], names: readonly string[]): string[] {
  const found = new Set<string>()
  for (const path of paths) {
    const steps = path.split('/').slice(0, -1)
    const at = steps.findIndex((step) => names.includes(step.toLowerCase()))
    if (at >= 0) found.add(steps.slice(0, at + 1).join('/'))
  }
  return [...found].sort()
}

/** A path in which no character is a wildcard of a pattern. */
function escaped(path: string): string {
  return path.replace(/[\\*?[\]{}()!+@]/g, '\\$&')
}

function extensionOf(path: string): string {
  const name = path.slice(path.lastIndexOf('/') + 1)
  const dot = name.lastIndexOf('.')
  return dot < 0 ? '' : name.slice(dot + 1).toLowerCase()
}
