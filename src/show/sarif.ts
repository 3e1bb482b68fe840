import type { Finding } from '../core/report/finding.ts'
import type { CheckedFolder } from '../core/facts/checked.ts'

const LEVEL = { error: 'error', warning: 'warning', note: 'note' } as const

/** What the checks of a folder found as a SARIF log (OASIS, version 2.1.0), for programs that show findings in files. */
export function sarifLog(checked: CheckedFolder, version: string, folderUri: string): object {
  const rules = [...new Set(checked.findings.map(({ check }) => check))].sort()
  return {
    $schema:
      'https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json',
    version: '2.1.0',
    runs: [
      {
        tool: { driver: { name: 'anagnosis', version, rules: rules.map((id) => ({ id })) } },
        columnKind: 'utf16CodeUnits',
        originalUriBaseIds: { CHECKED: { uri: folderUri } },
        results: checked.findings.map((found) => resultOf(found, rules)),
      },
    ],
  }
}

function resultOf(found: Finding, rules: readonly string[]): object {
  const { path, key, line, column, check, severity, message, expected, nearest } = found
  const region =
    line === null
      ? {}
      : { region: { startLine: line, ...(column === null ? {} : { startColumn: column }) } }
  return {
    ruleId: check,
    ruleIndex: rules.indexOf(check),
    level: LEVEL[severity],
    message: { text: message },
    locations: [
      {
        physicalLocation: {
          artifactLocation: {
            uri: path.split('/').map(encodeURIComponent).join('/'),
            uriBaseId: 'CHECKED',
          },
          ...region,
        },
        ...(key === '' ? {} : { logicalLocations: [{ fullyQualifiedName: key }] }),
      },
    ],
    properties: { expected, nearest },
  }
}
