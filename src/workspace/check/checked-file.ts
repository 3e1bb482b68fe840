import type { Finding } from '../../core/report/finding.ts'
import { WELL_FORMED } from '../../core/report/finding.ts'
import { MINE } from '../../core/document/sides.ts'
import { Doc } from '../../core/formats/doc.ts'
import { formatNamed } from '../../core/formats/index.ts'
import { locate } from '../../core/report/locate.ts'
import type { LocatedProblem } from '../../core/report/report.ts'
import { DecodedInputs } from '../carry/decode-inputs.ts'
import type { FileInput } from '../carry/file-input.ts'
import type { FileRule } from '../config/config.ts'
import { dialectOfRule } from '../config/format-rule.ts'
import { formatOf } from '../content/file-format.ts'

/** A file that was read to be checked. */
export interface CheckedFile {
  /** Undefined where it is no document, or is malformed. */
  doc: Doc | undefined
  /** Where it is malformed. */
  findings: Finding[]
  /** What it uses of a laxer dialect than vanilla's. */
  warnings: LocatedProblem[]
}

const NOTHING: CheckedFile = { doc: undefined, findings: [], warnings: [] }

/**
 * Reads a file as a carry reads mine, and mends nothing.
 *
 * @param vanilla the same file of vanilla, which shows the dialect; undefined where there is none
 */
export function readChecked(
  path: string,
  bytes: Buffer,
  rule: FileRule | undefined,
  vanilla: Buffer | undefined,
): CheckedFile {
  const input: FileInput = { path, bytes: [vanilla, undefined, bytes], rule, format: undefined }
  const format = formatOf(input)
  if (format === undefined || format.name === 'text') return NOTHING
  // an INI file does not say its encoding: where there is no other to hold it against, it shows its own
  const [old = format.name === 'ini' ? bytes : undefined] = input.bytes
  const decoded = new DecodedInputs({ ...input, bytes: [old, undefined, bytes] })
  const source = decoded.texts[MINE]
  const invalid = decoded.problems.filter(({ input: which }) => which === 'mine')
  if (source === undefined) return format.certain ? malformed(invalid) : NOTHING
  const [shows = source] = decoded.texts
  const made = formatNamed(format.name)
  const reader = made.reader([shows], dialectOfRule(rule?.format))
  const { tree, problems, lax } = reader.read(source)
  const said = (all: typeof problems): LocatedProblem[] =>
    locate(
      all.map((problem) => ({ ...problem, input: 'mine' })),
      [undefined, undefined, source],
      path,
    )
  const errors = problems.filter(({ severity }) => severity === 'error')
  if (errors.length > 0) return format.certain ? malformed(said(errors)) : NOTHING
  const usual = new Set(shows === source ? [] : reader.read(shows).lax.map(({ trait }) => trait))
  const strange = shows === source ? [] : lax.filter(({ trait }) => !usual.has(trait))
  return {
    doc: new Doc(made, tree, reader),
    findings: [],
    warnings: said(strange.map(({ warning }) => warning)),
  }
}

function malformed(problems: readonly LocatedProblem[]): CheckedFile {
  return { ...NOTHING, findings: problems.map(asFinding) }
}

function asFinding(problem: LocatedProblem): Finding {
  const { path, line, column, message, hint, text, width } = problem
  return {
    path,
    key: '',
    line,
    column,
    check: WELL_FORMED,
    severity: 'error',
    message,
    expected: hint ?? null,
    nearest: null,
    ...(text === undefined ? {} : { text }),
    ...(width === undefined ? {} : { width }),
  }
}
