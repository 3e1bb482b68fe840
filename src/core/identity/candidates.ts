import { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'
import { identityOf, parseIdentity } from './expression.ts'
import type { Siblings } from './siblings.ts'

/** Names that authors of data files customarily give to what identifies an entry, the likeliest first. */
const CUSTOMARY = ['id', 'uid', 'guid', 'name', 'key', 'type', 'code', 'title']

/** So many candidates are tried in pairs. */
const MOST_PAIRED = 5

/** Attributes, texts of children and members of the first entries, then those one level down. */
export function candidates(siblings: Siblings): string[] {
  const found = new Set<string>()
  const deeper = new Set<string>()
  for (const { doc, node } of siblings.leading()) collect(doc, node, '', found, deeper)
  return [...found, ...deeper]
}

/** Those of the candidates that have a customary name, in the same order. */
export function customaryCandidates(siblings: Siblings): string[] {
  const found = new Set<string>()
  for (const { doc, node } of siblings.leading()) {
    for (const child of doc.kind(node) === Kind.Array ? [] : doc.children(node)) {
      const step = stepTo(doc, child)
      if (isCustomary(step) && !found.has(step) && isCandidate(doc, child)) found.add(step)
    }
  }
  return [...found]
}

/** How an identity names what stands in an entry. */
function stepTo(doc: Doc, child: number): string {
  const name = doc.name(child)
  return doc.kind(child) === Kind.Attribute ? `@${name}` : name
}

/** Whether what stands in an entry can be its identity by itself. */
function isCandidate(doc: Doc, child: number): boolean {
  switch (doc.kind(child)) {
    case Kind.Attribute:
      return true
    case Kind.Element:
      return doc.isLeafElement(child)
    case Kind.Member:
      return isNameLike(doc, doc.memberValue(child))
    default:
      return false
  }
}

function collect(
  doc: Doc,
  entry: number,
  prefix: string,
  found: Set<string>,
  deeper: Set<string>,
): void {
  const into = prefix === '' ? found : deeper
  if (doc.kind(entry) === Kind.Array) {
    into.add(`${prefix}[0]`)
    return
  }
  for (const child of doc.children(entry)) {
    if (isCandidate(doc, child)) into.add(prefix + stepTo(doc, child))
    const container = doc.kind(child) === Kind.Member ? doc.memberValue(child) : child
    const hasInside = doc.kind(container) === Kind.Element || doc.kind(container) === Kind.Object
    if (prefix === '' && hasInside) collect(doc, container, `${doc.name(child)}/`, found, deeper)
  }
}

const LITERALS = ['true', 'false', 'null']

function isNameLike(doc: Doc, value: number): boolean {
  return doc.kind(value) === Kind.Scalar && !LITERALS.includes(doc.slice(value))
}

/** Two candidates together, where neither tells entries apart but both are on all of them. */
export function pairsOf(texts: readonly string[], { docs, groups }: Siblings): string[] {
  const present = texts
    .filter((text) => !text.includes('/'))
    .filter((text) => {
      const identity = parseIdentity(text)
      return docs.every((doc, d) =>
        groups[d]?.every((all) =>
          all.every((entry) => identityOf(doc, entry, identity) !== undefined),
        ),
      )
    })
    .sort((a, b) => customaryRank(a) - customaryRank(b))
    .slice(0, MOST_PAIRED)
  if (!present.some(isNamed)) return []
  return present.flatMap((one, i) => present.slice(i + 1).map((other) => `${one}|${other}`))
}

export function isCustomary(text: string): boolean {
  return customaryRank(text) < CUSTOMARY.length
}

/** Whether an identity has a customary name in it: then its values are not judged. */
export function isNamed(text: string): boolean {
  return text.split('|').some((part) => CUSTOMARY.includes(lastStep(part)))
}

export function customaryRank(text: string): number {
  const rank = CUSTOMARY.indexOf(lastStep(text))
  return (rank < 0 ? CUSTOMARY.length : rank) + (text.includes('/') ? CUSTOMARY.length : 0)
}

/** The name that an identity ends in, in small letters. */
function lastStep(text: string): string {
  return text
    .slice(text.lastIndexOf('/') + 1)
    .replace('@', '')
    .toLowerCase()
}
