import type { CarryReport } from '../../core/report/report.ts'

/** Names beside each question what was answered when it was asked for other values. */
export function withEarlier({ files }: CarryReport): void {
  for (const { conflicts, recalled } of files)
    for (const { key, take, value } of recalled?.earlier ?? [])
      for (const conflict of conflicts)
        if (conflict.key === key)
          conflict.earlier = value === undefined ? { take } : { take, value }
}
