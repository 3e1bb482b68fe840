import { readdirSync, readFileSync, statSync } from 'node:fs'
import { basename, join, resolve } from 'node:path'
import { formatOfPath } from '../../core/formats/detect.ts'
import type { Doc } from '../../core/formats/doc.ts'
import { readDoc } from '../../core/formats/doc.ts'
import { formatNamed } from '../../core/formats/index.ts'
import { valueAtKey } from '../../core/keys/find-key.ts'
import { decode } from '../content/text-file.ts'
import { isSamePath } from '../paths.ts'
import { readTree } from '../tree.ts'

/** A folder that may be a live folder or a vanilla, and what its own files say. */
interface Candidate {
  /** From the folder of the workspace, with `/`. */
  folder: string
  location: string
  paths: ReadonlySet<string>
  version: string | undefined
  game: string | undefined
}

/** What setup proposes for each of its questions, by what it finds. */
export interface Proposals {
  /** Folders that may be live ones, the likeliest first. */
  folders: string[]
  /** Of a folder: the version that its files say, where a vanilla of that is, and the name of the game. */
  of: (folder: string) => { vanilla?: string; source?: string; game?: string }
}

/** More files than this are not looked at: a guess is no reason to wait. */
const MOST_FILES = 20_000
const LARGEST = 64 * 1024
const TELLS = /(version|build|release|about|game|info)[^/]*$/i
const VERSION_KEYS = ['release', 'version', 'build', '@version', '@release']
const GAME_KEYS = ['game', 'title', 'name', '@game']
const NAMED_VANILLA = /vanilla|original|untouched|stock|clean/i

/** Looks at a folder and the folders in it. @param taken live folders that have a variant already */
export function proposeSetup(root: string, taken: readonly string[]): Proposals {
  const inside = foldersIn(root).map((name) => candidateAt(join(root, name), name))
  const alike = inside.filter((one) =>
    inside.some((other) => other !== one && areAlike(one, other)),
  )
  // a folder that holds several servers or vanillas is none itself
  const all =
    alike.length > 0
      ? alike
      : [...inside.filter(({ paths }) => paths.size > 0), candidateAt(root, '.')]
  const isFree = ({ location }: Candidate): boolean =>
    !taken.some((each) => isSamePath(each, location))
  const servers = all.filter((each) => isFree(each) && !isVanilla(each))
  const known = new Map([...inside, ...all].map((each) => [resolve(each.location), each]))
  return {
    folders: servers.map(({ folder }) => folder),
    of(folder) {
      const location = resolve(root, folder)
      const own = known.get(location) ?? candidateAt(location, folder)
      const vanilla = own.version
      const source = inside.find(
        (each) => each.location !== own.location && isVanilla(each) && isOf(each, vanilla),
      )
      return {
        ...(vanilla === undefined ? {} : { vanilla }),
        ...(source === undefined ? {} : { source: source.folder }),
        ...(own.game === undefined ? {} : { game: own.game }),
      }
    },
  }
}

function foldersIn(root: string): string[] {
  try {
    return readdirSync(root, { withFileTypes: true })
      .filter(
        (each) => each.isDirectory() && !each.name.startsWith('.') && each.name !== 'node_modules',
      )
      .map(({ name }) => name)
      .sort()
  } catch {
    return []
  }
}

function candidateAt(location: string, folder: string): Candidate {
  const paths = filesIn(location)
  const telling = paths.filter((path) => TELLS.test(path) && path.split('/').length <= 2)
  const docs = telling.flatMap((path) => docAt(location, path) ?? [])
  const first = (keys: readonly string[]): string | undefined =>
    docs
      .flatMap((doc) => keys.flatMap((key) => valueAtKey(doc, key) ?? []))
      .find((value) => value !== '')
  return {
    folder,
    location,
    paths: new Set(paths),
    version: first(VERSION_KEYS),
    game: first(GAME_KEYS),
  }
}

function filesIn(location: string): string[] {
  try {
    const isHidden = (path: string): boolean => /(^|\/)(\.|node_modules)/.test(path)
    return [...readTree(location, isHidden)]
      .filter(([path, { kind }]) => kind === 'file' && formatOfPath(path) !== undefined)
      .slice(0, MOST_FILES)
      .map(([path]) => path)
  } catch {
    return []
  }
}

function docAt(location: string, path: string): Doc | undefined {
  const place = join(location, ...path.split('/'))
  const format = formatOfPath(path)
  if (format === undefined || statSync(place).size > LARGEST) return undefined
  const decoded = decode(readFileSync(place))
  return 'text' in decoded ? readDoc(formatNamed(format), decoded.text) : undefined
}

/** Whether two folders hold the same kind of files: one is a copy of the other, or both are of one game. */
function areAlike(one: Candidate, other: Candidate): boolean {
  const shared = [...one.paths].filter((path) => other.paths.has(path)).length
  return shared >= 2 && shared * 2 >= Math.min(one.paths.size, other.paths.size)
}

function isVanilla({ folder, version }: Candidate): boolean {
  const name = basename(folder)
  return NAMED_VANILLA.test(name) || (version !== undefined && name.includes(version))
}

function isOf({ folder, version }: Candidate, wanted: string | undefined): boolean {
  return wanted !== undefined && (version === wanted || basename(folder).endsWith(wanted))
}
