import { expect, test } from 'vitest'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

// Vanilla changes a hold, and mine puts a rope in it: that is asked only where the hold may stand inside a new one now.

const hold = (room: number, ...inside: string[]): string =>
  `<hold room="${room}">${['<net/>', ...inside].join('')}</hold>`

/** To compare the values of long ones costs more than their carry: they go by their name. */
const LOG = `<log>${'deep '.repeat(2000)}</log>`

test.each<[what: string, old: string, fresh: string, isAsked: boolean]>([
  ['it stands in a new one of its name', hold(4), hold(9, `<deck>${hold(4)}</deck>`), true],
  ['it is long', hold(4, LOG), hold(9, LOG, `<deck>${hold(4, LOG)}</deck>`), false],
  ['it got another value', hold(4), hold(9), false],
  ['it got one like itself', hold(4), hold(4, hold(4)), false],
  ['it had one like itself, and got another value', hold(4, hold(4)), hold(9, hold(4)), false],
  [
    'its id tells it',
    `<hold id="a" room="4"><net/></hold><hold id="b" room="5"/>`,
    `<hold id="a" room="9"><net/><deck><hold id="a" room="4"/></deck></hold><hold id="b" room="5"/>`,
    false,
  ],
  ['it got one of another value', hold(4), hold(9, hold(5)), false],
])('%s', (_, old, fresh, isAsked) => {
  const boat = (held: string): string => `<boat>\n  ${held}\n</boat>\n`
  const mine = old.replace('<net/>', '<rope/><net/>')
  const { text, conflicts } = carryText([boat(old), boat(fresh), boat(mine)], {
    format: formatNamed('xml'),
    path: 'boat.xml',
  })
  expect(conflicts.map(({ key }) => key)).toEqual(isAsked ? ['hold'] : [])
  expect(text).toBe(boat(isAsked ? mine : fresh.replace('<net/>', '<rope/><net/>')))
})
