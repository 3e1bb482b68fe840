import type { Finding } from '../core/report/finding.ts'
import type { FindingDocument } from './finding-document.ts'

/** A finding without the line that it stands in. */
export function findingJson(found: Finding): FindingDocument {
  const { path, key, line, column, check, severity, message, expected, nearest } = found
  return { path, key, line, column, check, severity, message, expected, nearest }
}
