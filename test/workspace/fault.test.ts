import { expect, test, vi } from 'vitest'
import type { Triple } from '../../src/core/document/sides.ts'
import { triple } from '../../src/core/document/sides.ts'
import type { Format } from '../../src/core/formats/index.ts'
import { carryFile } from '../../src/workspace/carry/carry-file.ts'
import type { CarriedFile } from '../../src/workspace/carry/file-input.ts'
import { exitOf } from '../../src/workspace/carry/exit-of.ts'

/** A format of which nothing can be read but what the inputs have: as if the merge had broken it. */
vi.mock('../../src/core/formats/index.ts', async (load) => {
  const formats = await load<{ formatNamed: (name: string) => Format }>()
  const broken = (format: Format): Format => ({
    ...format,
    reader: (vanilla) => {
      const reader = format.reader(vanilla)
      return {
        ...reader,
        read: (source, before) => {
          if (source.includes('foundered')) throw new Error('it foundered')
          const read = reader.read(source, before)
          if (!source.includes('4') || !source.includes('calm')) return read
          const span = { start: 0, end: 1 }
          const problem = { severity: 'error', code: 'x/x', message: 'it sank', span } as const
          return { ...read, problems: [problem] }
        },
      }
    },
  })
  return { ...formats, formatNamed: (name: string) => broken(formats.formatNamed(name)) }
})

/** What comes of a file whose three texts are given. */
function carriedOf(texts: Triple<string>): Promise<CarriedFile> {
  const bytes = triple((side) => Buffer.from(texts[side]))
  return carryFile({ path: 'sea.ini', bytes, rule: undefined, format: undefined })
}

test('what was put together and cannot be read is not written: the file stands as mine has it', async () => {
  const texts: Triple<string> = [
    'swell = 3\nsea = wild\n',
    'swell = 4\nsea = wild\n',
    'swell = 3\nsea = calm\n',
  ]
  const carried = await carriedOf(texts)
  expect(carried.bytes?.toString()).toBe(texts[2])
  expect(carried.report).toMatchObject({
    outcome: 'unread',
    changes: [],
    problems: [{ code: 'carry/result-does-not-read', severity: 'error' }],
  })
  expect(carried.report.problems[0]?.message).toContain('it sank')
  expect(exitOf({ files: [carried.report], problems: [] })).toBe(5)
})

test('what the program fails at is one file: it stands as mine has it', async () => {
  const texts: Triple<string> = ['swell = 3\n', 'swell = 4\n', 'swell = 3\nsea = foundered\n']
  const carried = await carriedOf(texts)
  expect(carried.bytes?.toString()).toBe(texts[2])
  expect(carried.report).toMatchObject({
    outcome: 'unread',
    problems: [{ code: 'carry/fault', severity: 'error' }],
  })
  expect(carried.report.problems[0]?.message).toContain('it foundered')
  expect(exitOf({ files: [carried.report], problems: [] })).toBe(5)
})
