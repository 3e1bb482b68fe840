import type { FileReport } from '../../core/report/report.ts'
import type { FileRule } from '../config/config.ts'
import { carryFile } from './carry-file.ts'
import type { FileInput } from './file-input.ts'

/**
 * What a merge of one file would tell, with nothing put together: whose file a policy takes is not asked, for what
 * the file holds is.
 */
export async function mergedReport(
  input: Omit<FileInput, 'format' | 'onlyReport'>,
): Promise<FileReport> {
  const rule = asMerged(input.rule)
  const { report } = await carryFile({ ...input, rule, format: undefined, onlyReport: true })
  return report
}

/** A rule without its policy. */
export function asMerged(rule: FileRule | undefined): FileRule | undefined {
  return rule === undefined ? undefined : { ...rule, take: 'merge' }
}
