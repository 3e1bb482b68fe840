import { expect, test, vi } from 'vitest'
import type { Format } from '../../src/core/formats/index.ts'
import { carryFile } from '../../src/workspace/carry/carry-file.ts'
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

test('what was put together and cannot be read is not written: the file stands as mine has it', async () => {
  const texts = ['swell = 3\nsea = wild\n', 'swell = 4\nsea = wild\n', 'swell = 3\nsea = calm\n']
  const bytes = texts.map((text) => Buffer.from(text))
  const carried = await carryFile({
    path: 'sea.ini',
    bytes: [bytes[0], bytes[1], bytes[2]],
    rule: undefined,
    format: undefined,
  })
  expect(carried.bytes?.toString()).toBe(texts[2])
  expect(carried.report).toMatchObject({
    outcome: 'unread',
    changes: [],
    problems: [{ code: 'carry/result-does-not-read', severity: 'error' }],
  })
  expect(carried.report.problems[0]?.message).toContain('it sank')
  expect(exitOf({ files: [carried.report], problems: [] })).toBe(5)
})
