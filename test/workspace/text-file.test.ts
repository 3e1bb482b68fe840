import fc from 'fast-check'
import { expect, test } from 'vitest'
import { formatOfFile } from '../../src/workspace/content/file-format.ts'
import type { TextForm } from '../../src/workspace/content/text-file.ts'
import { decode, encode, isSingleByte, looksBinary } from '../../src/workspace/content/text-file.ts'

const FORMS: TextForm[] = [
  { encoding: 'utf-8', bom: false },
  { encoding: 'utf-8', bom: true },
  { encoding: 'utf-16le', bom: true },
  { encoding: 'utf-16be', bom: true },
]

test.each(FORMS)('what is written as $encoding (mark: $bom) is read back', (form) => {
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme' }), (text) => {
      fc.pre(
        !text.startsWith('\uFEFF') &&
          !(form.encoding === 'utf-8' && !form.bom && /^[\u00fe\u00ff]/.test(text)),
      )
      const decoded = decode(encode(text, form))
      expect(decoded).toEqual({ text, form })
    }),
  )
})

test('the first byte that is no UTF-8 is named by its place', () => {
  expect(decode(Buffer.from([0x61, 0x0a, 0xc3, 0xa4, 0xff, 0x62, 0x0a]))).toEqual({
    invalid: { byte: 4, line: 2, column: 2, text: 'ä\uFFFDb', encoding: 'utf-8' },
  })
})

test('XML that says it is UTF-8, and is not, is not read in another alphabet', () => {
  const bytes = Buffer.from('<?xml version="1.0" encoding="UTF-8"?><a>S\xe4lt</a>', 'latin1')
  expect(isSingleByte(bytes)).toBe(false)
  expect(decode(bytes, 'windows-1252')).toMatchObject({ invalid: { byte: 42, encoding: 'utf-8' } })
  const silent = bytes.subarray(bytes.indexOf('<a'))
  expect(isSingleByte(silent)).toBe(true)
  expect(decode(silent, 'windows-1252')).toMatchObject({ text: '<a>S\u00e4lt</a>' })
})

test('a zero byte makes bytes binary, but not in UTF-16', () => {
  expect(looksBinary(Buffer.from([1, 0, 2]))).toBe(true)
  expect(looksBinary(encode('abc', { encoding: 'utf-16le', bom: true }))).toBe(false)
  expect(looksBinary(Buffer.from('abc'))).toBe(false)
})

test.each([
  ['ini', `${'; The words of who wrote the file.\n'.repeat(200)}\n[dive]\ndepth = 30\nlamps = 2\n`],
  ['text', `${'; The words of who wrote the file.\n'.repeat(200)}\nDive deep, and come back.\n`],
  ['text', '[dive]\nA day at sea.\n'],
])('what looks like %s is known behind pages of comments', (name, text) => {
  expect(formatOfFile('dive.conf', Buffer.from(text))).toEqual({ name, certain: false })
})
