import { expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

// What one side dropped, and the other put into an entry of its own, is told where that is no chance.

const hold = (...tools: string[]): string =>
  `<hold>\n${tools.map((tool) => `  ${tool}\n`).join('')}</hold>\n`
const tool = (of: string | number): string => `<tool>${of}</tool>`
const locked = (...tools: string[]): string => `<locked>${tools.join('')}</locked>`

test.each<[what: string, texts: [string, string, string], told: string[]]>([
  [
    'a text in an entry that vanilla put in',
    [hold(tool('rope'), tool('net')), hold(tool('rope'), locked(tool('net'))), hold(tool('rope'))],
    ["you dropped tool[net], and vanilla's new locked holds the same: it stands there"],
  ],
  [
    'a text in an entry that mine put in',
    [hold(tool('rope'), tool('net')), hold(tool('rope')), hold(tool('rope'), locked(tool('net')))],
    ['vanilla dropped tool[net], and your locked holds the same: it stands there'],
  ],
  [
    'a number, which says little',
    [hold(tool(4), tool(7)), hold(tool(4), locked(tool(7))), hold(tool(4))],
    [],
  ],
  [
    'an entry that both put in',
    [
      hold(tool('rope'), tool('net')),
      hold(tool('rope'), locked(tool('net'))),
      hold(tool('rope'), locked(tool('net'))),
    ],
    [],
  ],
])('%s', (_, texts, told) => {
  const { problems } = carryText(texts, { format: formatNamed('xml'), path: 'hold.xml' })
  const notes = problems.filter(({ code }) => code === 'carry/stands-inside')
  expect(notes.map(({ message }) => message)).toEqual(told)
})
