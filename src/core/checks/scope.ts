import type { Position } from '../document/line-map.ts'
import type { Doc } from '../formats/doc.ts'
import { valuePlace } from '../formats/value-place.ts'
import type { DocumentKey } from '../identity/document-keys.ts'
import { documentKeys } from '../identity/document-keys.ts'
import { Identities } from '../identity/identities.ts'
import type { PlacePattern, Step } from './pattern.ts'
import { KeyPattern, parsePlace, pathMatcher, stepsOf } from './pattern.ts'

/** The files that checks are about. */
export interface CheckedFiles {
  /** All paths, relative, with `/`. */
  paths: readonly string[]
  /** A file as a document; undefined where it is none, or is malformed. */
  doc: (path: string) => Doc | undefined
  /** The same file of vanilla: what tells its entries apart is found in both together. */
  vanilla: (path: string) => Doc | undefined
  /** What the config says that tells the entries of a file apart, by place. */
  identity: (path: string) => ReadonlyMap<string, string>
  /** What told them apart in the carry that wrote the file. */
  identityBefore: (path: string) => ReadonlyMap<string, string>
}

/** A value or an entry that stands at a place; a file or a folder as a whole has no key. */
export interface Standing {
  path: string
  key: string
  /** The decoded text; of a file or a folder its name; undefined for an entry. */
  value: string | undefined
  at: Position | null
  /** The line that it stands in, and how many code units of it are meant. */
  line?: string
  width?: number
  /** What the wildcards of the pattern of files stand for. */
  captured: readonly string[]
}

interface KeyedNode extends DocumentKey {
  steps: readonly Step[]
}

/** Looks up what stands at the places of checks; each file is walked once. */
export class Scope {
  private readonly keys = new Map<string, readonly KeyedNode[]>()
  private readonly byKey = new Map<string, ReadonlyMap<string, KeyedNode>>()
  private readonly found = new Map<string, readonly Standing[]>()

  constructor(private readonly files: CheckedFiles) {}

  /** All that stands at a place. */
  at(place: string): readonly Standing[] {
    let found = this.found.get(place)
    if (found === undefined) {
      const pattern = parsePlace(place)
      found = pattern.keys === undefined ? this.named(pattern.files) : this.standing(pattern)
      this.found.set(place, found)
    }
    return found
  }

  /** Files that match a pattern. */
  filesAt(files: string): { path: string; captured: string[] }[] {
    const captured = pathMatcher(files)
    return this.files.paths.flatMap((path) => {
      const wildcards = captured(path)
      return wildcards === undefined ? [] : [{ path, captured: wildcards }]
    })
  }

  /** What stands at a key of a file; undefined where nothing does. */
  value(path: string, key: string): Standing | undefined {
    const doc = this.files.doc(path)
    if (doc === undefined) return undefined
    let keys = this.byKey.get(path)
    if (keys === undefined) {
      keys = new Map(this.keysOf(path, doc).map((each) => [each.key, each]))
      this.byKey.set(path, keys)
    }
    const found = keys.get(key)
    return found === undefined ? undefined : standingAt(path, doc, found, [])
  }

  /** All keys of the files that a place names: to say which is nearest to a mistyped one. */
  keysNear(place: string): string[] {
    return this.filesAt(parsePlace(place).files).flatMap(({ path }) => {
      const doc = this.files.doc(path)
      return doc === undefined ? [] : this.keysOf(path, doc).map(({ key }) => key)
    })
  }

  private standing({ files, keys = '' }: PlacePattern): Standing[] {
    const pattern = new KeyPattern(keys)
    return this.filesAt(files).flatMap(({ path, captured }) => {
      const doc = this.files.doc(path)
      if (doc === undefined) return []
      return this.keysOf(path, doc)
        .filter(({ steps }) => pattern.matches(steps))
        .map((each) => standingAt(path, doc, each, captured))
    })
  }

  private keysOf(path: string, doc: Doc): readonly KeyedNode[] {
    let keys = this.keys.get(path)
    if (keys === undefined) {
      const { vanilla, identity, identityBefore } = this.files
      const known = [doc, vanilla(path)].filter((each) => each !== undefined)
      const identities = new Identities(known, identity(path), identityBefore(path))
      keys = documentKeys(doc, identities).map((each) => ({
        ...each,
        steps: stepsOf(each.key),
      }))
      this.keys.set(path, keys)
    }
    return keys
  }

  /** Files, or folders where the pattern ends in `/`; each has its name as its value. */
  private named(files: string): Standing[] {
    if (!files.endsWith('/'))
      return this.filesAt(files).map(({ path, captured }) => whole(path, stemOf(path), captured))
    const captured = pathMatcher(files.slice(0, -1))
    return [...this.folders()].flatMap((folder) => {
      const wildcards = captured(folder)
      if (wildcards === undefined) return []
      return [whole(`${folder}/`, folder.slice(folder.lastIndexOf('/') + 1), wildcards)]
    })
  }

  private folders(): Set<string> {
    const folders = new Set<string>()
    for (const path of this.files.paths)
      for (let at = path.lastIndexOf('/'); at > 0; at = path.lastIndexOf('/', at - 1))
        folders.add(path.slice(0, at))
    return folders
  }
}

function whole(path: string, value: string, captured: readonly string[]): Standing {
  return { path, key: '', value, at: null, captured }
}

/** The name of a file without its last extension. */
export function stemOf(path: string): string {
  const name = path.slice(path.lastIndexOf('/') + 1)
  const dot = name.lastIndexOf('.')
  return dot <= 0 ? name : name.slice(0, dot)
}

function standingAt(
  path: string,
  doc: Doc,
  { key, node }: KeyedNode,
  captured: readonly string[],
): Standing {
  const start = valuePlace(doc, node)
  const line = doc.lines.textAt(start)
  const at = doc.lines.at(start)
  const width = Math.min(doc.tree.end(node) - start, line.length - at.column + 1)
  return { path, key, value: doc.textOf(node), at, line, width, captured }
}
