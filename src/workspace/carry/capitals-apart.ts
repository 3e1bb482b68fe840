import { gather } from '../../core/document/gather.ts'
import type { LocatedProblem } from '../../core/report/report.ts'
import { fileProblem } from '../../core/report/report.ts'
import type { Triple } from '../../core/document/sides.ts'
import { SIDE_NAMES, SIDES } from '../../core/document/sides.ts'
import type { FileTree } from '../tree.ts'

/** Files of one input whose paths differ by capitals alone: a disk of Windows or of a Mac holds one of them. */
export function capitalsApart(trees: Triple<FileTree>): LocatedProblem[] {
  return SIDES.flatMap((side) => {
    const spelled = new Map<string, string[]>()
    for (const path of trees[side].keys()) {
      gather(spelled, path.toLowerCase(), path)
    }
    return [...spelled.values()]
      .filter((paths) => paths.length > 1)
      .map((paths) => ({
        ...fileProblem(paths[0] ?? '', {
          severity: 'warning',
          code: 'file/capitals-apart',
          message: `${paths.join(' and ')} differ by capitals alone; Windows and macOS hold only one of them`,
          hint: 'give one of them another name',
        }),
        input: SIDE_NAMES[side],
      }))
  })
}
