import { gather } from '../../document/gather.ts'
import type { Position } from '../../document/line-map.ts'
import type { Side } from '../../document/sides.ts'
import { SIDES } from '../../document/sides.ts'
import type { Doc } from '../../formats/doc.ts'
import { documentKeys } from '../../identity/document-keys.ts'
import type { DocumentKey } from '../../identity/document-keys.ts'
import { Identities } from '../../identity/identities.ts'
import { isBelow, keyPattern, parentOf } from '../../keys/key.ts'
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

/** The keys of one document, as they are asked for: each question is answered without going through all of them. */
class KeysOfDoc {
  private readonly keys: readonly DocumentKey[]
  private ranks: Map<string, number> | undefined
  private patterns: Map<string, DocumentKey[]> | undefined
  private parents: Map<string, Set<string>> | undefined

  constructor(
    private readonly doc: Doc,
    identity: ReadonlyMap<string, string>,
  ) {
    this.keys = documentKeys(doc, new Identities([doc], new Map(), identity))
  }

  at(pattern: string): readonly DocumentKey[] {
    if (this.patterns === undefined) {
      this.patterns = new Map()
      for (const each of this.keys) gather(this.patterns, keyPattern(each.key), each)
    }
    return this.patterns.get(pattern) ?? []
  }

  /** A key and all inside it, which stand directly behind it; all keys of the document where there is none. */
  *inside(entry: string): Iterable<DocumentKey> {
    if (entry === '') {
      yield* this.keys
      return
    }
    for (let rank = this.rankOf(entry) ?? this.keys.length; rank < this.keys.length; rank++) {
      const each = this.keys[rank]
      if (each === undefined || (each.key !== entry && !isBelow(each.key, entry))) return
      yield each
    }
  }

  get(key: string): DocumentKey | undefined {
    const rank = this.rankOf(key)
    return rank === undefined ? undefined : this.keys[rank]
  }

  namesIn(parent: string): ReadonlySet<string> {
    if (this.parents === undefined) {
      this.parents = new Map()
      for (const { key, node } of this.keys) {
        const around = parentOf(key)
        const names = this.parents.get(around)
        if (names === undefined) this.parents.set(around, new Set([this.doc.name(node)]))
        else names.add(this.doc.name(node))
      }
    }
    return this.parents.get(parent) ?? new Set()
  }

  private rankOf(key: string): number | undefined {
    this.ranks ??= new Map(this.keys.map((each, rank) => [each.key, rank]))
    return this.ranks.get(key)
  }
}

/** The keys of the inputs of a carry; each file is walked once. */
export class TogetherInputs {
  private readonly known = new Map<Doc, KeysOfDoc>()

  constructor(private readonly files: TogetherFiles) {}

  /** What stands at the keys of a pattern in an input: its decoded text; undefined for an entry. */
  at(side: Side, path: string, pattern: string): { key: string; value: string | undefined }[] {
    const doc = this.files.input(side, path)
    if (doc === undefined) return []
    const keys = this.keysOf(path, doc).at(pattern)
    return keys.map(({ key, node }) => ({ key, value: doc.textOf(node) }))
  }

  /** The texts in an entry of an input, the entry itself among them, each with its key. */
  *textsIn(side: Side, path: string, entry: string): Iterable<{ key: string; text: string }> {
    const doc = this.files.input(side, path)
    if (doc === undefined) return
    for (const { key, node } of this.keysOf(path, doc).inside(entry)) {
      const text = doc.textOf(node)
      if (text !== undefined) yield { key, text }
    }
  }

  /** The names of the sections or members directly in what a key names. */
  namesIn(side: Side, path: string, parent: string): ReadonlySet<string> {
    const doc = this.files.input(side, path)
    return doc === undefined ? new Set() : this.keysOf(path, doc).namesIn(parent)
  }

  /** All texts that stand in an input. */
  values(side: Side, path: string): Set<string> {
    return new Set([...this.textsIn(side, path, '')].map(({ text }) => text))
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
    const found = doc === undefined ? undefined : this.keysOf(path, doc).get(key)
    if (doc === undefined || found === undefined) return undefined
    const start = valuePlace(doc, found.node)
    return { at: doc.lines.at(start), text: doc.lines.textAt(start) }
  }

  private keysOf(path: string, doc: Doc): KeysOfDoc {
    let keys = this.known.get(doc)
    if (keys === undefined)
      this.known.set(doc, (keys = new KeysOfDoc(doc, this.files.identity(path))))
    return keys
  }
}
