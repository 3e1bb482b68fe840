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
  return traits
}

/** The decoded value of a scalar with its type before it, so that `1` and `"1"` differ. */
function scalarValue(tree: Tree, node: number): string {
  const raw = tree.body(node)
  if (tree.source.charCodeAt(tree.start[node] ?? 0) === 34) return `"${decodeString(raw).trim()}`
  return /^[-0-9]/.test(raw) ? canonicalNumber(raw) : raw
}

export const json: Format = {
  name: 'json',
  read(source) {
    const scanner = new JsonScanner(source)
    scanner.read()
    return { tree: scanner.tree, problems: scanner.problems, lax: laxTraits(scanner) }
  },
  dialect: (vanilla) =>
    [...new Set(vanilla.flatMap((source) => json.read(source).lax.map((each) => each.trait)))].join(
      ', ',
    ),
  nodeName(tree, node) {
    if (tree.kind[node] !== Kind.Member) return ''
    return decodeString(
      tree.source.slice((tree.start[node] ?? 0) + 1, (tree.nameEnd[node] ?? 0) - 1),
    )
  },
  leafValue: scalarValue,
  commentText: (tree, node) => foldBlanks(tree.body(node).replace(/^\s*\*/gm, '')),
  separator: ',',
  foldsCase: false,
  lineComments: true,
}
