import { isScalar, parseDocument } from 'yaml'

/** How a config writes the vanilla of a variant, quotes included; undefined where it has none. */
export function writtenVanilla(source: string, variant: string): string | undefined {
  const node: unknown = parseDocument(source).getIn(['variants', variant, 'vanilla'], true)
  return isScalar(node) && node.range ? source.slice(node.range[0], node.range[1]) : undefined
}

/**
 * The text of an `anagnosis.yaml` in which a variant stands on another vanilla; every other byte stays.
 *
 * @param written the vanilla as it is to be written, quotes included
 */
export function withVanilla(
  source: string,
  variant: string,
  vanilla: string,
  written = JSON.stringify(vanilla),
): string {
  const node: unknown = parseDocument(source).getIn(['variants', variant, 'vanilla'], true)
  if (!isScalar(node) || !node.range || node.value === vanilla) return source
  const [start, end] = node.range
  return source.slice(0, start) + written + source.slice(end)
}
