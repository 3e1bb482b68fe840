import { Kind } from '../document/kind.ts'
import type { Doc } from '../formats/doc.ts'
import { identityText, parseIdentity } from './expression.ts'
import type { Siblings } from './siblings.ts'

/** Names that authors of data files customarily give to what identifies an entry, the likeliest first. */
const IDS = ['id', 'uid', 'guid']
const CUSTOMARY = [...IDS, 'name', 'key', 'type', 'code', 'title']
/** What a customary name may end in, with something before it. */
const ENDS_IN_ID = /[a-z0-9]Id$|_id$|[a-z0-9]ID$/
const ENDING_IN = [ENDS_IN_ID, /[a-z0-9]Name$|_name$/, /[a-z0-9]Key$|_key$/]

/** So many candidates are tried in pairs. */
const MOST_PAIRED = 5

/** Attributes, texts of children and members of the first entries, then those one level down. */
export function candidates(siblings: Siblings): string[] {
  const found = new Set<string>()
  const deeper = new Set<string>()
  for (const { doc, node } of siblings.leading()) collect(doc, node, '', found, deeper)
  return [...found, ...deeper]
}

/** What of an entry has a customary name, by how identities name that. */
export function customarySteps(doc: Doc, entry: number): string[] {
  if (doc.kind(entry) === Kind.Array) return []
  return doc
    .children(entry)
    .filter((child) => isCustomary(stepTo(doc, child)) && isCandidate(doc, child))
    .map((child) => stepTo(doc, child))
}

/** How an identity names what stands in an entry. */
function stepTo(doc: Doc, child: number): string {
  const name = doc.foldedName(child)
  return doc.kind(child) === Kind.Attribute ? `@${name}` : name
}

/** Whether what stands in an entry can be its identity by itself. */
function isCandidate(doc: Doc, child: number): boolean {
  switch (doc.kind(child)) {
    case Kind.Attribute:
    case Kind.Property:
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
      const values = docs.flatMap((doc, d) =>
        (groups[d] ?? []).flat().map((entry) => identityText(doc, entry, identity)),
      )
      const there = values.filter((value) => value !== undefined)
      return there.length === values.length && (isCustomary(text) || areNames(there))
    })
    .sort((a, b) => customaryRank(a) - customaryRank(b))
    .slice(0, MOST_PAIRED)
  if (!present.some(isCustomary)) return []
  return present.flatMap((one, i) => present.slice(i + 1).map((other) => `${one}|${other}`))
}

/** Whether an identity is by one customary name, an id also where it stands further down: then it is strong. */
export function isCustomary(text: string): boolean {
  if (customaryRank(text) < CUSTOMARY.length + ENDING_IN.length) return true
  return !text.includes('|') && isId(lastStep(text))
}

/** What an identity names, without where that stands. */
function lastStep(text: string): string {
  return text.slice(text.lastIndexOf('/') + 1)
}

/** Whether a customary name says that it is there to tell entries apart, and to do nothing else. */
export function isId(text: string): boolean {
  const name = text.replace('@', '')
  return IDS.includes(name.toLowerCase()) || ENDS_IN_ID.test(name)
}

/** The place of a candidate among customary ones, the likeliest first; all others come behind these. */
export function customaryRank(text: string): number {
  const ranks = CUSTOMARY.length + ENDING_IN.length
  if (text.includes('|')) return ranks * 2
  const name = lastStep(text).replace('@', '')
  const exact = CUSTOMARY.indexOf(name.toLowerCase())
  const ending = ENDING_IN.findIndex((each) => each.test(name))
  const rank = exact >= 0 ? exact : ending >= 0 ? CUSTOMARY.length + ending : ranks
  return rank + (text.includes('/') ? ranks : 0)
}

/** A customary name apart, what tells entries apart looks like a name: no measures, no descriptions. */
export function areNames(values: readonly string[]): boolean {
  const names = values.filter((value) => LIKE_A_NAME.test(value) && !LIKE_MEASURES.test(value))
  return names.length >= values.length * 0.9
}

/** Up to four words, none of them endless. */
const LIKE_A_NAME = /^\S{1,120}( \S{1,60}){0,3}$/
/** Numbers and what parts them: a size, a place, a colour, an outline. */
const LIKE_MEASURES =
  /^(?:[-+.0-9%,;()#\s]|(?<=[0-9.])[eE](?=[-+0-9]))*$|^[a-z]+\([-.0-9, ]*\)$|^#[0-9a-fA-F]{3,8}$/
