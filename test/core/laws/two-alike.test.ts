import { expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { Triple } from '../../../src/core/document/sides.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

// Whatever a document becomes of another: where two of old, new and mine say the same, each in its own form, the
// third decides, and nobody is asked.

const JSON_TEXTS = [
  '{}',
  '[]',
  '{"reef": 1}',
  '{"reef": null, "kelp": ""}',
  '{"kelp": 2, "reef": 1}',
  '{"reef": {"crab": 1}}',
  '{"reef": {"crab": {"load": 1}, "eel": {"load": 2}}}',
  '{"reef": []}',
  '{"reef": [1, 2]}',
  '{"reef": [true, false]}',
  '{"reef": ["tar", "tar", "rope"]}',
  '{"reef": ["tar", "tar"]}',
  '{"reef": [[1, 2], [3, 4]]}',
  '{"reef": [{"load": 1}, {"load": 2}]}',
  '{"reef": [{"id": "crab", "load": 9}, {"id": "eel", "load": 2}, {"id": "ray", "load": 3}]}',
  '[{"id": "crab", "load": 2}, {"id": "eel", "load": 1}]',
]

const XML_TEXTS = [
  '<dive/>',
  '<hold/>',
  '<dive>reef</dive>',
  '<dive x="1"/>',
  '<dive><reef>1</reef></dive>',
  '<dive><reef x="2" y="3"/></dive>',
  '<dive><kelp>2</kelp><reef>1</reef></dive>',
  '<dive><reef>1</reef><reef>1</reef></dive>',
  '<dive><reef id="eel">2</reef></dive>',
  '<dive><reef id="crab">9</reef><reef id="eel">2</reef><reef id="ray">3</reef></dive>',
  '<dive><beds><reef id="crab">1</reef><reef id="eel">2</reef></beds></dive>',
  '<dive>deep<reef>1</reef>down</dive>',
  '<dive><?load 1?><reef><![CDATA[1]]></reef></dive>',
  '<dive><key>crab</key><load>1</load><key>eel</key><load>2</load></dive>',
]

const INI_TEXTS = [
  '',
  'reef=1\n',
  'reef=2\nkelp=\n',
  '[dive]\n',
  '[dive]\nreef=1\n',
  '[dive]\nkelp=2\nreef=1\n',
  '[hold]\nload=3\n[dive]\nreef=1\n',
  '[hold]\nreef=1\n',
  '[dive]\nreef=1\nreef=1\n',
  '[dive]\nreef=2\nreef=1\n',
  '[dive]\nreef=1\n[dive]\nreef=2\n',
  '[dive]\n;reef=2\nkelp=2\n',
  '[dive]\n+Find=1\n+Find=2\n',
  'load=1\n[dive]\nreef=1\nkelp=2\ncrab=3\neel=4\n',
]

const FORMATS: [FormatName, readonly string[], (text: string) => string][] = [
  ['json', JSON_TEXTS, (text) => text.replace(/[,:]/g, ' $& ').replace(/[[{]/g, '$& ')],
  ['xml', XML_TEXTS, (text) => text.replace(/(\w)(\/?>)/g, '$1 $2').replace(/"/g, "'")],
  ['ini', INI_TEXTS, (text) => text.replace(/=/g, ' = ').replace(/\]\n/g, ']\n\n')],
]

test.each(FORMATS)(
  'of three %s files of which two say the same the third decides',
  (name, all, inOtherForm) => {
    const format = formatNamed(name)
    const carry = (texts: Triple<string>) => carryText(texts, { format, path: 'a' })
    /** What a carry asks, and in what its result is not what is wanted. */
    const wrongIn = (texts: Triple<string>, wanted: string): string[] => {
      const { text = 'unread', conflicts } = carry(texts)
      const { changes } = carry([wanted, wanted, text])
      return [...conflicts, ...changes].map(({ key, kind }) => `${kind} ${key}`)
    }
    for (const same of all)
      for (const other of all) {
        const form = inOtherForm(same)
        const three: [string, Triple<string>][] = [
          ['vanilla changed nothing', [same, form, other]],
          ['mine changed nothing', [same, other, form]],
          ['both changed the same', [other, same, form]],
        ]
        for (const [what, texts] of three) {
          const wanted = what.startsWith('both') ? same : other
          expect({ what, texts, wrong: wrongIn(texts, wanted) }).toEqual({ what, texts, wrong: [] })
        }
      }
  },
)

test.each(FORMATS)('without an old each difference of two %s files is a question', (name, all) => {
  const format = formatNamed(name)
  for (const fresh of all)
    for (const mine of all) {
      const { changes } = carryText([fresh, fresh, mine], { format, path: 'a' })
      // the order of entries is nobody's edit here
      const differs = changes.some(({ kind }) => kind !== 'moved')
      const { text, conflicts } = carryText([undefined, fresh, mine], {
        format,
        path: 'a',
        everyDifference: true,
      })
      const asked = conflicts.length > 0
      expect({ fresh, mine, text, asked }).toEqual({ fresh, mine, text: mine, asked: differs })
    }
})
