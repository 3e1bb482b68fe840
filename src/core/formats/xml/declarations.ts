import { Kind } from '../../document/kind.ts'
import type { Tree } from '../../document/tree.ts'
import { attributesEnd, firstContent } from '../../document/unit-list.ts'
import { firstOfKinds } from '../doc.ts'
import type { MissingDeclaration, ParseResult } from '../format.ts'
import { declaredEntities, ENTITY_REFERENCE } from './grammar.ts'

const ELEMENTS = new Set([Kind.Element])
const INSTRUCTIONS = new Set([Kind.Instruction])
const BINDING = 'xmlns:'

/**
 * Prefixes and entities that a document uses and no longer declares, though an input does so: one side
 * dropped the declaration, and the other still has entries that need it.
 */
export function missingDeclarations(
  { tree, problems }: ParseResult,
  inputs: readonly Tree[],
): MissingDeclaration[] {
  const root = firstOfKinds(tree, 0, ELEMENTS)
  if (root < 0) return []
  const unknown = problems
    .filter(({ code }) => code === 'xml/unknown-entity')
    .map(({ span }) => tree.source.slice(span.start + 1, span.end - 1))
  return [...missingBindings(tree, root, inputs), ...missingEntity(tree, root, unknown, inputs)]
}

/** Prefixes that an input's root binds, and that elements or attributes have here without being bound. */
function missingBindings(tree: Tree, root: number, inputs: readonly Tree[]): MissingDeclaration[] {
  const known = new Set(bindings(tree, root).keys())
  const at = attributesEnd(tree, root)
  const missing: MissingDeclaration[] = []
  for (const input of inputs) {
    for (const [prefix, text] of bindings(input, firstOfKinds(input, 0, ELEMENTS))) {
      const isMissing = !known.has(prefix) && usesUnbound(tree, prefix)
      known.add(prefix)
      if (isMissing)
        missing.push({ key: `@${BINDING}${prefix}`, what: `the prefix ${prefix}`, text, at })
    }
  }
  return missing
}

/** The prefixes that a root binds, each with the attribute's text and the blanks in front of it. */
function bindings(tree: Tree, root: number): Map<string, string> {
  const found = new Map<string, string>()
  const stop = root < 0 ? root : firstContent(tree, root)
  for (let node = root + 1; node < stop; node++) {
    if (!tree.source.startsWith(BINDING, tree.start(node))) continue
    const before = node === root + 1 ? tree.nameEnd(root) : tree.end(node - 1)
    const prefix = tree.source.slice(tree.start(node) + BINDING.length, tree.nameEnd(node))
    found.set(prefix, tree.source.slice(before, tree.end(node)))
  }
  return found
}

/** Whether a name has a prefix where no element around it binds that. */
function usesUnbound(tree: Tree, prefix: string): boolean {
  const { source } = tree
  const start = `${prefix}:`
  /** Where the element ends inside which the prefix is bound. */
  let boundUntil = 0
  for (let node = 1; node < tree.length; node++) {
    const kind = tree.kind(node)
    if (kind === Kind.Element && tree.start(node) >= boundUntil) {
      const stop = firstContent(tree, node)
      for (let inner = node + 1; inner < stop; inner++)
        if (source.slice(tree.start(inner), tree.nameEnd(inner)) === BINDING + prefix)
          boundUntil = tree.end(node)
      if (tree.start(node) >= boundUntil && source.startsWith(start, tree.start(node) + 1))
        return true
    } else if (kind === Kind.Attribute && tree.start(node) >= boundUntil) {
      if (source.startsWith(start, tree.start(node))) return true
    }
  }
  return false
}

/** The first entity of some that an input declares: with its DOCTYPE, or put into the one that is here. */
function missingEntity(
  tree: Tree,
  root: number,
  [name]: readonly string[],
  inputs: readonly Tree[],
): MissingDeclaration[] {
  if (name === undefined) return []
  const here = doctypeOf(tree)
  const named = { key: '!DOCTYPE', what: `the entity ${name}` }
  const known = here < 0 ? new Map<string, unknown>() : declaredEntities(tree.slice(here))
  if (known === undefined || known.has(name)) return []
  for (const input of inputs) {
    const node = doctypeOf(input)
    const doctype = node < 0 ? '' : input.slice(node)
    const declared = declaredEntities(doctype)
    if (declared !== undefined && !declared.has(name)) continue
    if (here < 0) return [{ ...named, text: `${doctype}\n`, at: tree.start(root) }]
    const literals = entityDeclarations(doctype, name, known)
    if (literals === '') continue
    const subsetEnd = tree.slice(here).lastIndexOf(']')
    if (subsetEnd >= 0) return [{ ...named, text: literals, at: tree.start(here) + subsetEnd }]
    return [{ ...named, text: ` [\n${literals}]`, at: tree.end(here) - 1 }]
  }
  return []
}

/** The declarations of an entity and of those that it refers to, as they stand in a DOCTYPE, a line each. */
function entityDeclarations(
  doctype: string,
  name: string,
  known: ReadonlyMap<string, unknown>,
): string {
  const all = new Map<string, string>()
  for (const [text, each = ''] of doctype.matchAll(/<!ENTITY\s+(\S+)\s+(?:"[^"]*"|'[^']*')\s*>/g))
    if (!all.has(each)) all.set(each, text)
  const wanted = new Set([name])
  for (const each of wanted)
    for (const [, inner = ''] of (all.get(each) ?? '').matchAll(ENTITY_REFERENCE))
      if (!known.has(inner)) wanted.add(inner)
  return [...wanted]
    .flatMap((each) => all.get(each) ?? [])
    .map((text) => `${text}\n`)
    .join('')
}

function doctypeOf(tree: Tree): number {
  const first = firstOfKinds(tree, 0, INSTRUCTIONS)
  const stop = tree.next(0)
  for (let node = first; node > 0 && node < stop; node = tree.next(node))
    if (tree.source.startsWith('<!DOCTYPE', tree.start(node))) return node
  return -1
}
