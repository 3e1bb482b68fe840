import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import { models, PLAIN } from '../laws/model.ts'
import { renderers } from '../laws/render.ts'
import { RUNS } from '../laws/runs.ts'

/** Well-formed vanilla, which shows the plain dialect. */
const WELL: Record<FormatName, string[]> = { xml: ['<a/>'], json: ['{}'], ini: ['a = 1\n'] }

/** What is wrong, and where the first problem is said to be, as the text at that place. */
const CASES: [format: FormatName, source: string, code: string, at: string][] = [
  ['xml', '<a>\n  <b>\n</a>', 'xml/unclosed-element', '<b>'],
  ['xml', '<a></b></a>', 'xml/stray-close', '</b'],
  ['xml', '<a x="1" x="2"/>', 'xml/duplicate-attribute', 'x="2"'],
  ['xml', '<a x="1/>\n<b/>', 'xml/unclosed-value', '"1'],
  ['xml', '<a x=1/>', 'xml/missing-value', 'x=1'],
  ['xml', '<a x="1"y="2"/>', 'xml/missing-blank', 'y='],
  ['xml', '<a>1 < 2</a>', 'xml/stray-less-than', '< 2'],
  ['xml', '<a>salt & brine</a>', 'xml/stray-ampersand', '& brine'],
  ['xml', '<a>&nbsp;</a>', 'xml/unknown-entity', '&nbsp;'],
  ['xml', '<a>&#0;</a>', 'xml/bad-reference', '&#0;'],
  ['xml', '<a>]]></a>', 'xml/stray-section-end', ']]>'],
  ['xml', '<a><!-- one -- two --></a>', 'xml/double-hyphen', '-- two'],
  ['xml', '<a><!-- one</a>', 'xml/unclosed-comment', '<!--'],
  ['xml', '<a><![CDATA[ one</a>', 'xml/unclosed-cdata', '<![CDATA['],
  ['xml', '<a/><b/>', 'xml/second-root', '<b'],
  ['xml', '<a/>text', 'xml/text-outside-root', 'text'],
  ['xml', ' <?xml version="1.0"?><a/>', 'xml/misplaced-declaration', '<?xml'],
  ['xml', '<?xml version="one"?><a/>', 'xml/bad-declaration', '<?xml'],
  ['xml', '<a>\u0001</a>', 'xml/bad-character', '\u0001'],
  ['xml', '<!DOCTYPE a [<!-- \u0001 -->]><a/>', 'xml/bad-character', '\u0001'],
  ['xml', '<a', 'xml/unclosed-tag', '<a'],
  ['xml', ' ', 'xml/empty', ''],
  ['json', '{"a": 1 "b": 2}', 'json/missing-comma', ' "b"'],
  ['json', '{"a" 1}', 'json/missing-colon', ' 1'],
  ['json', '{a: 1}', 'json/expected-name', 'a:'],
  ['json', '[1, , 2]', 'json/stray-comma', ', 2'],
  ['json', '[01]', 'json/bad-number', '01'],
  ['json', '["a\n"]', 'json/unclosed-string', '"a'],
  ['json', '["\\x"]', 'json/bad-escape', '\\x'],
  ['json', '["\t"]', 'json/control-character', '\t'],
  ['json', '{"a": [1, 2}', 'json/unclosed', '[1'],
  ['json', '[1]]', 'json/stray-close', ']'],
  ['json', '[1] 2', 'json/after-end', '2'],
  ['json', '[yes]', 'json/expected-value', 'yes'],
  ['json', '/* one', 'json/unclosed-comment', '/*'],
  ['json', '', 'json/empty', ''],
  ['ini', '[sea\na = 1', 'ini/unclosed-section', '['],
  ['ini', '[sea] x\n', 'ini/after-section', 'x'],
  ['ini', 'a = 1\na\n', 'ini/no-separator', 'a\n'],
  ['ini', '= 1\n', 'ini/no-name', '='],
  ['ini', 'a = "1\n', 'ini/unclosed-quote', '"1'],
  ['ini', 'a = \u0000\n', 'ini/nul-character', '\u0000'],
]

describe('a malformed text is told by its place, and never half read', () => {
  test.each(CASES)('%s %j is %s', (name, source, code, at) => {
    const { problems } = formatNamed(name).read(source, WELL[name])
    expect(problems[0]).toMatchObject({ code, severity: 'error' })
    expect(source.slice(problems[0]?.span.start)).toMatch(at === '' ? /^/ : startsWith(at))
    const well = WELL[name][0] ?? ''
    const carried = carryText([well, well, source], { format: formatNamed(name), path: 'a' })
    expect(carried.text).toBeUndefined()
  })

  test.each(['xml', 'json'] as const)('%s of 100,000 levels is refused', (name) => {
    const deep = name === 'xml' ? '<a>'.repeat(100_000) : '['.repeat(100_000)
    expect(
      formatNamed(name)
        .read(deep)
        .problems.map((problem) => problem.code),
    ).toContain(`${name}/too-deep`)
  })

  test('every error that can be told apart is told', () => {
    const source = '<a>\n  <b x="1" x="2">1 & 2</b>\n  <c>\n</a>'
    expect(
      formatNamed('xml')
        .read(source)
        .problems.map((problem) => problem.code),
    ).toEqual(['xml/duplicate-attribute', 'xml/stray-ampersand', 'xml/unclosed-element'])
  })
})

describe.each(renderers)('one character is taken out of a well-formed $name', (renderer) => {
  test('it is read without loss, or every problem has a place in the text', () => {
    fc.assert(
      fc.property(models(renderer.depth), fc.nat(), (model, n) => {
        const whole = renderer.render(model, PLAIN)
        const at = n % Math.max(1, whole.length)
        const source = whole.slice(0, at) + whole.slice(at + 1)
        const format = formatNamed(renderer.name)
        const { tree, problems, lax } = format.read(source)
        for (const { span } of problems) {
          expect(span.start).toBeGreaterThanOrEqual(0)
          expect(span.end).toBeLessThanOrEqual(source.length + 1)
          expect(span.start).toBeLessThanOrEqual(span.end)
        }
        if (renderer.name === 'json' && lax.length === 0)
          expect(problems.length === 0).toBe(isJson(source))
        if (problems.length > 0) return
        expect(tree.end(0)).toBe(source.length)
        expect(
          carryText([source, source, whole === source ? source : `${source}`], {
            format,
            path: 'a',
          }).text,
        ).toBe(source)
      }),
      RUNS,
    )
  })
})

function isJson(source: string): boolean {
  try {
    JSON.parse(source)
    return true
  } catch {
    return false
  }
}

function startsWith(text: string): RegExp {
  return new RegExp(`^${text.replace(/[\\^$.*+?()[\]{}|]/g, '\\$&')}`)
}
