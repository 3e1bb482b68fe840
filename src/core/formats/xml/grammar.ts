/* What of XML's grammar is told without state: single characters, references, the declaration, DOCTYPE. */

const QUOTE = 34
const APOSTROPHE = 39
const GREATER = 62
const OPEN_BRACKET = 91
const CLOSE_BRACKET = 93

/** The XML declaration as a whole (section 2.8). */
export const DECLARATION =
  /^<\?xml[ \t\r\n]+version[ \t\r\n]*=[ \t\r\n]*("1\.[0-9]+"|'1\.[0-9]+')([ \t\r\n]+encoding[ \t\r\n]*=[ \t\r\n]*("[A-Za-z][A-Za-z0-9._-]*"|'[A-Za-z][A-Za-z0-9._-]*'))?([ \t\r\n]+standalone[ \t\r\n]*=[ \t\r\n]*("(yes|no)"|'(yes|no)'))?[ \t\r\n]*\?>$/

/** The entities that need no declaration. */
const PREDEFINED = new Set(['lt', 'gt', 'amp', 'quot', 'apos'])
/** A reference to a character by its number; sticky. */
export const CHARACTER_REFERENCE = /&#(?:x([0-9a-fA-F]+)|([0-9]+));/y

/** `Char` of XML 1.0, section 2.2. */
export function isAllowedCodePoint(code: number): boolean {
  if (code < 0x20) return code === 9 || code === 10 || code === 13
  return (
    code <= 0xd7ff || (code >= 0xe000 && code <= 0xfffd) || (code >= 0x10000 && code <= 0x10ffff)
  )
}

/** The offset after a DOCTYPE's `>`: quotes, comments, instructions and the internal subset are skipped. */
export function doctypeEnd(source: string, at: number): number {
  let inSubset = false
  let from = at + 9
  while (from < source.length) {
    const code = source.charCodeAt(from)
    let skipTo = from + 1
    if (code === QUOTE || code === APOSTROPHE)
      skipTo = after(source, String.fromCharCode(code), from + 1)
    else if (source.startsWith('<!--', from)) skipTo = after(source, '-->', from + 4)
    else if (source.startsWith('<?', from)) skipTo = after(source, '?>', from + 2)
    else if (code === OPEN_BRACKET) inSubset = true
    else if (code === CLOSE_BRACKET) inSubset = false
    else if (code === GREATER && !inSubset) return from + 1
    if (skipTo < 0) return -1
    from = skipTo
  }
  return -1
}

function after(source: string, what: string, from: number): number {
  const found = source.indexOf(what, from)
  return found < 0 ? -1 : found + what.length
}

/** What a DOCTYPE says of a general entity. Its value is read to judge references, and never put in their place. */
export interface DeclaredEntity {
  /** The literal value; undefined where it lies outside. */
  value: string | undefined
  /** Whether it is no XML at all (NDATA). */
  unparsed: boolean
}

const ENTITY = /<!ENTITY\s+([^\s%"'<>&]+)\s+(?:"([^"]*)"|'([^']*)'|[^>]*?(\bNDATA\b)?[^>]*)>?/g

/**
 * The general entities that a DOCTYPE declares itself; undefined where it names an external subset or
 * uses parameter entities, which may declare more.
 */
export function declaredEntities(doctype: string): Map<string, DeclaredEntity> | undefined {
  const open = doctype.indexOf('[')
  const head = open < 0 ? doctype : doctype.slice(0, open)
  if (/\b(SYSTEM|PUBLIC)\b/.test(head)) return undefined
  const subset = (open < 0 ? '' : doctype.slice(open + 1)).replace(/<!--[^]*?-->/g, '')
  if (/<!ENTITY\s+%|(?:^|[\s>\]])%[^\s;]+;/.test(subset)) return undefined
  const declared = new Map<string, DeclaredEntity>()
  for (const [, name = '', double, single, ndata] of subset.matchAll(ENTITY)) {
    const value = double ?? single
    if (!declared.has(name)) declared.set(name, { value, unparsed: ndata !== undefined })
  }
  return declared
}

/** What in an entity's value refers to others: all but character references and what stands in CDATA sections. */
const CDATA_SECTION = /<!\[CDATA\[[^]*?\]\]>/g
export const ENTITY_REFERENCE = /&([^#&;][^&;]*);/g

/** An entity that is being judged, and what is left to look at of those that it refers to. */
interface Judging {
  name: string
  inner: string[]
}

/**
 * Judges references to entities that a DOCTYPE declares. Each entity is judged once, however often and
 * however deep others refer to it.
 */
export class EntityJudge {
  /** The fault of each entity that was judged; undefined where it has none. */
  private readonly inText = new Map<string, string | undefined>()
  private readonly inAttributes = new Map<string, string | undefined>()

  constructor(private readonly declared: ReadonlyMap<string, DeclaredEntity>) {}

  /** Why a reference to an entity is not allowed where it stands; undefined where it is. */
  fault(name: string, inAttribute: boolean): string | undefined {
    const known = inAttribute ? this.inAttributes : this.inText
    if (known.has(name)) return known.get(name)
    const open: Judging[] = []
    const isOpen = new Set<string>()
    let fault = this.enter(name, inAttribute, open, isOpen)
    for (let top = open.at(-1); top !== undefined; top = open.at(-1)) {
      const inner = fault === undefined ? top.inner.pop() : undefined
      if (inner !== undefined) {
        fault = known.has(inner)
          ? known.get(inner)
          : isOpen.has(inner)
            ? 'refers to itself'
            : this.enter(inner, inAttribute, open, isOpen)
        continue
      }
      known.set(top.name, fault)
      isOpen.delete(top.name)
      open.pop()
    }
    known.set(name, fault)
    return fault
  }

  /** The fault of an entity by itself; where it has none it is opened, to look at those that it refers to. */
  private enter(
    name: string,
    inAttribute: boolean,
    open: Judging[],
    isOpen: Set<string>,
  ): string | undefined {
    const entity = this.declared.get(name)
    if (entity === undefined) return PREDEFINED.has(name) ? undefined : 'is not declared'
    if (entity.unparsed) return 'is declared as something that is no XML'
    const { value } = entity
    if (value === undefined)
      return inAttribute ? 'lies outside the file, which no attribute may refer to' : undefined
    if (inAttribute && value.includes('<')) return 'holds a <, which no attribute may'
    const references = value.replace(CDATA_SECTION, '').matchAll(ENTITY_REFERENCE)
    open.push({ name, inner: [...references].map(([, inner = '']) => inner).reverse() })
    isOpen.add(name)
    return undefined
  }
}
