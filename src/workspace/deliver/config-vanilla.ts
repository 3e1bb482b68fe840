import { isScalar, parseDocument } from 'yaml'

/** The text of an `anagnosis.yaml` in which a variant stands on another vanilla; every other byte stays. */
export function withVanilla(source: string, variant: string, vanilla: string): string {
  const node: unknown = parseDocument(source).getIn(['variants', variant, 'vanilla'], true)
  if (!isScalar(node) || !node.range || node.value === vanilla) return source
  const [start, end] = node.range
  return source.slice(0, start) + JSON.stringify(vanilla) + source.slice(end)
}
