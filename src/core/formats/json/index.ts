import { foldBlanks } from '../../document/characters.ts'
import { Kind } from '../../document/kind.ts'
import type { Tree } from '../../document/tree.ts'
import type { Format, LaxTrait } from '../format.ts'
import { decodeString } from './decode.ts'
import { canonicalNumber } from './number.ts'
import { jsonProblems } from './problems.ts'
import { JsonScanner } from './scanner.ts'

function laxTraits(scanner: JsonScanner): LaxTrait[] {
  const traits: LaxTrait[] = []
  const comment = scanner.firstComment
  if (comment >= 0) {
    const warning = jsonProblems.laxComment({ start: comment, end: comment + 2 })
    traits.push({ trait: 'comments', warning })
  }
  const comma = scanner.firstTrailingComma
  if (comma >= 0) {
    const warning = jsonProblems.laxTrailingComma({ start: comma, end: comma + 1 })
    traits.push({ trait: 'trailing-commas', warning })
  }
  if (scanner.firstJson5 >= 0) {
    const span = { start: scanner.firstJson5, end: scanner.firstJson5 + 1 }
    traits.push({ trait: 'json5', warning: jsonProblems.laxJson5(span) })
  }
  return traits
}

/** The decoded value of a scalar with its type before it, so that `1` and `"1"` differ. */
function scalarValue(tree: Tree, node: number): string {
  const raw = tree.body(node)
  const first = tree.source.charCodeAt(tree.start[node] ?? 0)
  if (first === 34 || first === 39) return `"${decodeString(raw).trim()}`
  return /^[-+.0-9]/.test(raw) ? canonicalNumber(raw) : raw
}

function scan(source: string, json5: boolean): JsonScanner {
  const scanner = new JsonScanner(source, json5)
  scanner.read()
  return scanner
}

/** Whether a source is JSON5 and no plain JSON: it is read as that where vanilla's is. */
function isJson5(source: string): boolean {
  if (!/'|[{,]\s*[\p{L}$_]|[+.]|0[xX]|Infinity|NaN/u.test(source)) return false
  return scan(source, false).problems.length > 0 && scan(source, true).problems.length === 0
}

export const json: Format = {
  name: 'json',
  read(source, vanilla = []) {
    const scanner = scan(source, vanilla.some(isJson5))
    return { tree: scanner.tree, problems: scanner.problems, lax: laxTraits(scanner) }
  },
  dialect: (vanilla) => {
    const traits = vanilla.flatMap((source) =>
      json.read(source, vanilla).lax.map((each) => each.trait),
    )
    return [...new Set(traits)].join(', ')
  },
  nodeName(tree, node) {
    if (tree.kind[node] !== Kind.Member) return ''
    const name = tree.source.slice(tree.start[node], tree.nameEnd[node])
    return /^["']/.test(name) ? decodeString(name.slice(1, -1)) : name
  },
  leafValue: scalarValue,
  commentText: (tree, node) => foldBlanks(tree.body(node).replace(/^\s*\*/gm, '')),
  separator: ',',
  foldsCase: false,
  lineComments: true,
}
