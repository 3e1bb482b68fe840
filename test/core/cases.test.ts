import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { expect, test } from 'vitest'
import type { CarriedText } from '../../src/core/carry/carry-text.ts'
import { carryText } from '../../src/core/carry/carry-text.ts'
import type { Triple } from '../../src/core/document/sides.ts'
import { triple } from '../../src/core/document/sides.ts'
import type { Format } from '../../src/core/formats/index.ts'
import { formatNamed } from '../../src/core/formats/index.ts'
import { formatOfPath } from '../../src/core/formats/detect.ts'
import type { Decision } from '../../src/core/plan/decide.ts'
import type { Case } from './cases/case.ts'
import { outlines } from './plan/planned.ts'

const ROOT = join(dirname(fileURLToPath(import.meta.url)), 'cases')

const NAMES = ['old', 'new', 'mine'] as const
type Name = (typeof NAMES)[number] | 'expected'

interface CaseFiles {
  format: Format
  file: string
  read: (name: Name) => string
}

function filesOf(name: string): CaseFiles {
  const folder = join(ROOT, name)
  const file = readdirSync(folder).find((name) => name.startsWith('old.')) ?? ''
  return {
    format: formatNamed(formatOfPath(file) ?? 'ini'),
    file,
    read: (name) => readFileSync(join(folder, file.replace('old', name)), 'utf8'),
  }
}

const folders = readdirSync(ROOT).filter((name) => name !== 'case.ts')
const all = await Promise.all(
  folders.sort().map(async (name) => {
    const { default: it } = (await import(`./cases/${name}/case.ts`)) as { default: Case }
    return [it.title, filesOf(name), it] as const
  }),
)

test.each(all)('%s', (_title, { format, file, read }, it) => {
  const { text, changes, conflicts, problems } = carryText(
    triple((side) => read(NAMES[side])),
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
})

/** A value for people who read it among others. */
const brief = (value: string | null): string =>
  value === null ? '-' : value.replace(/\s+/g, ' ').slice(0, 40)

/** All that a carry tells, and what it comes to where each question is decided for one side. */
function told({ format, file }: CaseFiles, texts: Triple<string>): string[] {
  const carry = (decisions: Decision[] = []): CarriedText =>
    carryText(texts, { format, path: file, decisions })
  const { text, changes, conflicts, problems } = carry()
  const again = carryText([texts[0], texts[1], text ?? ''], { format, path: file })
  const decided = (take: 'vanilla' | 'mine'): string => {
    const keys = [...new Set(conflicts.map(({ key }) => key))]
    const settled = carry(keys.map((key) => ({ key, by: 'decision', take })))
    const refused = settled.notApplied?.map(({ key, why }) => `; not ${key}: ${why}`) ?? []
    const is = NAMES.find((_, at) => texts[at] === settled.text) ?? 'a mixture'
    return `  decided for ${take}: ${settled.text === text ? 'as it was' : is}, ${settled.conflicts.length} open${refused.join('')}`
  }
  return [
    ...changes.map(
      (row) =>
        `  ${row.side} ${row.kind} ${row.key}: ${[row.old, row.new, row.mine, row.result].map(brief).join(' | ')}`,
    ),
    ...conflicts.map(
      (row) =>
        `  asked ${row.kind} ${row.key}: ${[row.old, row.new, row.mine].map(brief).join(' | ')}`,
    ),
    ...(conflicts.length === 0 ? [] : [decided('vanilla'), decided('mine')]),
    ...problems.map(({ input, line, message }) => `  ${input ?? ''}:${line ?? ''} ${message}`),
    ...(again.text === text ? [] : ['  carried again: changed']),
    // what stood for an open question is an edit like any other then
    ...(conflicts.length > 0
      ? []
      : again.conflicts.map(({ key }) => `  carried again: asked ${key}`)),
  ]
}

/** What is decided of a case, and how much of that with every short way that there is. */
function decided({ format }: CaseFiles, texts: Triple<string>): string[] {
  const [plain, short] = outlines(format, texts)
  return [...plain, `-- ${short.length} of ${plain.length} lines with short ways`]
}

test('what is decided of each case', async () => {
  const lines = all.flatMap(([title, files]) => {
    const texts = triple((side) => files.read(NAMES[side]))
    return [title, ...decided(files, texts).map((line) => `  ${line}`), '']
  })
  await expect(lines.join('\n')).toMatchFileSnapshot('cases-planned.txt')
})

test('what each case tells, and what it tells with new and mine exchanged', async () => {
  const lines = all.flatMap(([title, files]) => {
    const [old, fresh, mine] = triple((side) => files.read(NAMES[side]))
    return [
      title,
      ...told(files, [old, fresh, mine]),
      '  -- exchanged',
      ...told(files, [old, mine, fresh]),
      '',
    ]
  })
  await expect(lines.join('\n')).toMatchFileSnapshot('cases-told.txt')
})
