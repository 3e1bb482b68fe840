import type { Document, Node } from 'yaml'
import { isNode, LineCounter, parseDocument, visit } from 'yaml'
import { NO_ANCHOR, TOO_MANY_ALIASES, yamlFault } from './yaml-words.ts'

/** What a YAML file holds, or where and why it cannot be read. */
export interface YamlText {
  document: Document
  lines: LineCounter
  /** Plain data; undefined where there is a fault. */
  content: unknown
  /** In our words; the place is an offset in UTF-16 code units. */
  fault: { at: number; message: string } | undefined
}

/** Reads a YAML file of one document. Never throws: aliases, too, can be wrong. */
export function readYaml(source: string): YamlText {
  const lines = new LineCounter()
  const document: Document = parseDocument(source, { lineCounter: lines })
  const syntax = document.errors[0]
  const fault =
    syntax === undefined ? aliasFault(document) : { at: syntax.pos[0], message: yamlFault(syntax) }
  if (fault !== undefined) return { document, lines, content: undefined, fault }
  try {
    return { document, lines, content: document.toJS() as unknown, fault }
  } catch {
    // after the aliases were looked at, only what they stand for can be too much
    return { document, lines, content: undefined, fault: { at: 0, message: TOO_MANY_ALIASES } }
  }
}

function aliasFault(document: Document): YamlText['fault'] {
  let fault: YamlText['fault']
  visit(document, {
    Alias(_, node) {
      if (node.resolve(document) !== undefined) return undefined
      fault = { at: node.range?.[0] ?? 0, message: NO_ANCHOR }
      return visit.BREAK
    },
  })
  return fault
}

/** Steps from the top of a file to a value in it: names, and indexes from 0. */
type Steps = readonly (string | number)[]

/** The node at a path, or the nearest one around it that is there. */
export function nodeAt(document: Document, where: Steps): Node | undefined {
  for (let length = where.length; length > 0; length--) {
    const node: unknown = document.getIn(where.slice(0, length), true)
    if (isNode(node)) return node
  }
  return isNode(document.contents) ? document.contents : undefined
}

/** A path for people, who count from 1. */
export function shownSteps(where: Steps): string {
  return where.map((step) => (typeof step === 'number' ? `${step + 1}` : step)).join(' ')
}
