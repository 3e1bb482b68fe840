import { Kind } from '../../../src/core/document/kind.ts'
import { Doc } from '../../../src/core/formats/doc.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import type { Entry, Story } from './model.ts'
import { flattened } from './model.ts'
import type { Renderer } from './render.ts'

/** What a carry must come to, by key: worked out from the models alone. */
export interface Expected {
  values: Map<string, string>
  conflicts: Set<string>
}

export function expectedOf(story: Story): Expected {
  const values = new Map<string, string>()
  const conflicts = new Set<string>()
  mergeLevel(entriesById(story), '', { values, conflicts })
  return { values, conflicts }
}

interface ById {
  old: readonly Entry[]
  fresh: readonly Entry[]
  mine: readonly Entry[]
}

function entriesById(story: Story): ById {
  return { old: story.old.entries, fresh: story.fresh.entries, mine: story.mine.entries }
}

function mergeLevel(level: ById, prefix: string, out: Expected): void {
  const ids = new Set([...level.old, ...level.fresh, ...level.mine].map((entry) => entry.id))
  const find = (entries: readonly Entry[], id: string): Entry | undefined =>
    entries.find((entry) => entry.id === id)
  for (const id of ids) {
    const key = prefix + id
    const [old, fresh, mine] = [find(level.old, id), find(level.fresh, id), find(level.mine, id)]
    if (fresh !== undefined && mine !== undefined) {
      out.values.set(key, '')
      mergeValues(key, old, fresh, mine, out)
      mergeLevel({ old: old?.parts ?? [], fresh: fresh.parts, mine: mine.parts }, `${key}/`, out)
      continue
    }
    const only = fresh ?? mine
    if (only === undefined) continue
    if (old === undefined) copyAll(only, prefix, out.values)
    else if (!sameContent(old, only)) {
      out.conflicts.add(key)
      if (mine !== undefined) copyAll(mine, prefix, out.values)
    }
  }
}

function mergeValues(
  key: string,
  old: Entry | undefined,
  fresh: Entry,
  mine: Entry,
  out: Expected,
): void {
  const names = new Set(
    [old, fresh, mine].flatMap((entry) => entry?.values.map(([name]) => name) ?? []),
  )
  for (const name of names) {
    const [o, n, m] = [old, fresh, mine].map(
      (entry) => entry?.values.find(([known]) => known === name)?.[1],
    )
    const result = n === m ? n : o === m ? n : m
    if (result !== undefined) out.values.set(`${key}.${name}`, result)
    if (n !== m && o !== m && o !== n) out.conflicts.add(`${key}.${name}`)
  }
}

function copyAll(entry: Entry, prefix: string, into: Map<string, string>): void {
  for (const [key, value] of flattened([entry], prefix)) into.set(key, value)
}

function sameContent(a: Entry, b: Entry): boolean {
  const form = (entry: Entry): string =>
    JSON.stringify([...flattened([entry])].sort(([x], [y]) => (x < y ? -1 : 1)))
  return form(a) === form(b) && a.parts.every((part, i) => part.id === b.parts[i]?.id)
}

/** The values of a rendered text by the same keys, read back through the tree. */
export function readBack(
  text: string,
  renderer: Renderer,
): { values: Map<string, string>; order: string[] } {
  const format = formatNamed(renderer.name)
  const reader = format.reader([text])
  const { tree, problems } = reader.read(text)
  if (problems.length > 0) throw new Error(`does not load: ${problems[0]?.message}\n${text}`)
  const doc = new Doc(format, tree, reader)
  const values = new Map<string, string>()
  const order: string[] = []
  READERS[renderer.name](doc, values, order)
  return { values, order }
}

type Reader = (doc: Doc, values: Map<string, string>, order: string[]) => void

const READERS: Record<FormatName, Reader> = {
  xml(doc, values, order) {
    readXml(doc, doc.root(), '', values, order)
  },
  json(doc, values, order) {
    const finds = doc.children(doc.root()).find((node) => doc.kind(node) === Kind.Member)
    if (finds !== undefined) readJson(doc, doc.memberValue(finds), '', values, order)
  },
  ini: readIni,
}

function readXml(
  doc: Doc,
  parent: number,
  prefix: string,
  values: Map<string, string>,
  order: string[],
): void {
  for (const node of doc.children(parent)) {
    if (doc.kind(node) !== Kind.Element || doc.name(node) !== 'find') continue
    const attributes = doc.children(node).filter((child) => doc.kind(child) === Kind.Attribute)
    const id = attributes.find((child) => doc.name(child) === 'id') ?? -1
    const key = prefix + (id < 0 ? '' : doc.value(id))
    values.set(key, '')
    if (prefix === '') order.push(key)
    for (const child of attributes)
      if (child !== id) values.set(`${key}.${doc.name(child)}`, doc.value(child))
    for (const child of doc.children(node)) {
      if (doc.kind(child) !== Kind.Element || doc.name(child) === 'find') continue
      values.set(`${key}.${doc.name(child)}`, doc.elementText(child))
    }
    readXml(doc, node, `${key}/`, values, order)
  }
}

function readIni(doc: Doc, values: Map<string, string>, order: string[]): void {
  for (const section of doc.children(0)) {
    if (doc.kind(section) !== Kind.Section) continue
    const key = doc.name(section)
    values.set(key, '')
    order.push(key)
    for (const child of doc.children(section)) {
      if (doc.kind(child) === Kind.Property)
        values.set(`${key}.${doc.name(child)}`, doc.value(child))
    }
  }
}

function readJson(
  doc: Doc,
  array: number,
  prefix: string,
  values: Map<string, string>,
  order: string[],
): void {
  for (const object of doc.children(array)) {
    if (doc.kind(object) !== Kind.Object) continue
    const members = doc.children(object).filter((child) => doc.kind(child) === Kind.Member)
    const text = (member: number): string =>
      member < 0 ? '' : doc.tree.body(doc.memberValue(member))
    const id = members.find((member) => doc.name(member) === 'id') ?? -1
    const key = prefix + text(id)
    values.set(key, '')
    if (prefix === '') order.push(key)
    for (const member of members) {
      if (doc.name(member) === 'parts')
        readJson(doc, doc.memberValue(member), `${key}/`, values, order)
      else if (member !== id) values.set(`${key}.${doc.name(member)}`, text(member))
    }
  }
}
