import type { Kind } from '../document/kind.ts'
import type { UnitList } from '../document/unit-list.ts'
import { Doc } from '../formats/doc.ts'
import { foldName } from '../formats/format.ts'
import type { IdentityExpression } from '../identity/expression.ts'
import { identityText } from '../identity/expression.ts'
import { ownComments } from './comments.ts'

/** An entry that is live in one document and may be commented out in another. */
export interface LiveEntry {
  doc: Doc
  node: number
  /** What tells it apart; undefined where its name alone does. */
  identity: IdentityExpression | undefined
}

/** An entry in a comment: the comment, and the entry in a document that is read from its text. */
export interface CommentedEntry {
  comment: number
  doc: Doc
  node: number
}

/** The entries that stand commented out among a container's units: read once, and found by name. */
export class CommentedOut {
  private byName: Map<string, CommentedEntry[]> | undefined

  constructor(
    private readonly doc: Doc,
    private readonly units: UnitList,
  ) {}

  /** The first comment that holds an entry of the same name and identity; undefined where there is none. */
  find(live: LiveEntry): CommentedEntry | undefined {
    this.byName ??= this.readAll(live.doc.kind(live.node))
    const named = this.byName.get(nameOf(live.doc, live.node)) ?? []
    return named.find((entry) => isSame(entry, live))
  }

  private readAll(among: Kind): Map<string, CommentedEntry[]> {
    const byName = new Map<string, CommentedEntry[]>()
    const { units } = this
    for (let unit = 0; unit < units.length; unit++) {
      const own = units.isComment(unit) ? [units.node(unit)] : ownComments(units, unit)
      for (const comment of own) {
        for (const entry of this.entriesIn(comment, among)) {
          const name = nameOf(entry.doc, entry.node)
          byName.set(name, [...(byName.get(name) ?? []), entry])
        }
      }
    }
    return byName
  }

  /** What a comment's text holds, read in the format and dialect of the file. */
  private entriesIn(comment: number, among: Kind): CommentedEntry[] {
    const { format, reader, tree: around } = this.doc
    const body = around.body(comment).trim()
    if (body === '') return []
    const { source, holdsEntries } = format.asSource(body.replace(/,$/, ''), among)
    const { tree, problems } = reader.read(source)
    if (problems.length > 0) return []
    const doc = new Doc(format, tree, reader)
    const root = doc.root()
    const entries = holdsEntries ? doc.children(root) : root < 0 ? [] : [root]
    return entries.map((node) => ({ comment, doc, node }))
  }
}

function nameOf(doc: Doc, node: number): string {
  return foldName(doc.format, doc.name(node))
}

function isSame({ doc, node }: CommentedEntry, live: LiveEntry): boolean {
  if (doc.kind(node) !== live.doc.kind(live.node)) return false
  if (live.identity === undefined) return nameOf(doc, node) !== ''
  const found = identityText(doc, node, live.identity)
  return found !== undefined && found === identityText(live.doc, live.node, live.identity)
}
