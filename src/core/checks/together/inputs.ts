import type { Position } from '../../document/line-map.ts'
import type { Side } from '../../document/sides.ts'
import { SIDES } from '../../document/sides.ts'
import type { Doc } from '../../formats/doc.ts'
import { documentKeys } from '../../identity/document-keys.ts'
import type { DocumentKey } from '../../identity/document-keys.ts'
import { Identities } from '../../identity/identities.ts'
import { keyPattern, parentOf } from '../../keys/key.ts'
import { valuePlace } from '../../formats/value-place.ts'

/** What a carry read and wrote, as far as it is asked for. */
export interface TogetherFiles {
  /** A file of an input, by its path in the result; undefined where there is none, or none that can be read. */
  input: (side: Side, path: string) => Doc | undefined
  /** A file of the result; undefined where nothing was written. */
  result: (path: string) => Doc | undefined
  /** The paths of the files of an input. */
  paths: (side: Side) => ReadonlySet<string>
  /** What told the entries of a file apart, by place. */
  identity: (path: string) => ReadonlyMap<string, string>
}

/** The keys of the inputs of a carry; each file is walked once. */
export class TogetherInputs {
  private readonly keys = new Map<Doc, readonly DocumentKey[]>()

  constructor(private readonly files: TogetherFiles) {}

  /** What stands at the keys of a pattern in an input: its decoded text; undefined for an entry. */
  at(side: Side, path: string, pattern: string): { key: string; value: string | undefined }[] {
    const doc = this.files.input(side, path)
    if (doc === undefined) return []
    return this.keysOf(path, doc)
      .filter(({ key }) => keyPattern(key) === pattern)
      .map(({ key, node }) => ({ key, value: doc.textOf(node) }))
  }

  /** The keys inside an entry of an input whose value is a text. */
  inside(side: Side, path: string, entry: string, value: string): string[] {
    const doc = this.files.input(side, path)
    if (doc === undefined) return []
    return this.keysOf(path, doc)
      .filter(({ key, node }) => {
        const isIn = entry === '' || key === entry || /^[/[]/.test(key.slice(entry.length))
        return isIn && key.startsWith(entry) && doc.textOf(node) === value
      })
      .map(({ key }) => key)
  }

  /** The names of the sections or members directly in what a key names. */
  namesIn(side: Side, path: string, parent: string): ReadonlySet<string> {
    const doc = this.files.input(side, path)
    if (doc === undefined) return new Set()
    return new Set(
      this.keysOf(path, doc).flatMap(({ key, node }) =>
        parentOf(key) === parent ? [doc.name(node)] : [],
      ),
    )
  }

  /** All texts that stand in an input. */
  values(side: Side, path: string): Set<string> {
    const doc = this.files.input(side, path)
    if (doc === undefined) return new Set()
    return new Set(this.keysOf(path, doc).flatMap(({ node }) => doc.textOf(node) ?? []))
  }

  paths(side: Side): ReadonlySet<string> {
    return this.files.paths(side)
  }

  /** Whether something holds in all three inputs. */
  inAll(holds: (side: Side) => boolean): boolean {
    return SIDES.every(holds)
  }

  /** Where a key stands in the result, and the line itself. */
  place(path: string, key: string): { at: Position; text: string } | undefined {
    const doc = this.files.result(path)
    const found =
      doc === undefined ? undefined : this.keysOf(path, doc).find((each) => each.key === key)
    if (doc === undefined || found === undefined) return undefined
    const start = valuePlace(doc, found.node)
    return { at: doc.lines.at(start), text: doc.lines.textAt(start) }
  }

  private keysOf(path: string, doc: Doc): readonly DocumentKey[] {
    let keys = this.keys.get(doc)
    if (keys === undefined) {
      keys = documentKeys(doc, new Identities([doc], new Map(), this.files.identity(path)))
      this.keys.set(doc, keys)
    }
    return keys
  }
}
