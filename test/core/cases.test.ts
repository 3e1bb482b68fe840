import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { expect, test } from 'vitest'
import { carryText } from '../../src/core/carry/carry-text.ts'
import { triple } from '../../src/core/document/sides.ts'
import { formatNamed } from '../../src/core/formats/index.ts'
import { formatOfPath } from '../../src/core/formats/detect.ts'
import type { Case } from './cases/case.ts'

const ROOT = join(dirname(fileURLToPath(import.meta.url)), 'cases')
const cases = import.meta.glob<{ default: Case }>('./cases/*/case.ts', { eager: true })

test.each(Object.entries(cases).map(([path, { default: it }]) => [it.title, path, it] as const))(
  '%s',
  (_title, path, it) => {
    const folder = join(ROOT, dirname(path).split('/').at(-1) ?? '')
    const file = readdirSync(folder).find((name) => name.startsWith('old.')) ?? ''
    const read = (name: string): string =>
      readFileSync(join(folder, file.replace('old', name)), 'utf8')
    const format = formatNamed(formatOfPath(file) ?? 'ini')
    const names = ['old', 'new', 'mine'] as const
    const { text, changes, conflicts, problems } = carryText(
      triple((side) => read(names[side])),
      { format, path: file },
    )
    expect(text).toBe(read('expected'))
    expect(conflicts).toHaveLength(it.conflicts.length)
    expect(conflicts).toMatchObject(it.conflicts)
    if (it.changes !== undefined) {
      expect(changes.map(({ side, kind, key }) => `${side} ${kind} ${key}`).sort()).toEqual(
        [...it.changes].sort(),
      )
    }
    expect(
      problems.filter((problem) => problem.severity === 'note').map((problem) => problem.code),
    ).toEqual(it.notes ?? [])
  },
)
