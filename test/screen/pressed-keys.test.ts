import type { Key } from 'ink'
import { expect, test } from 'vitest'
import { pressedKeys } from '../../src/screen/pressed-keys.ts'

const NO_KEY = { ctrl: false, meta: false } as Key // every other member of a key is a yes or a no

test('keys are told whatever terminal sends them', () => {
  const of = (input: string, key: Partial<Key> = {}): unknown =>
    pressedKeys(input, { ...NO_KEY, ...key })
  expect(of('2')).toEqual([{ sign: '2' }])
  expect(of('', { return: true })).toEqual([{ name: 'enter' }])
  // one terminal names the key above Enter so, another so
  expect([of('', { backspace: true }), of('', { delete: true })]).toEqual([
    [{ name: 'rub-out' }],
    [{ name: 'rub-out' }],
  ])
  // fast fingers, and what is pasted
  expect(of('a1\r\t\b\u007f')).toEqual([
    { sign: 'a' },
    { sign: '1' },
    { name: 'enter' },
    { name: 'tab' },
    { name: 'rub-out' },
    { name: 'rub-out' },
  ])
  expect(of('\u00e9\ud83d\udc1f')).toEqual([{ sign: '\u00e9' }, { sign: '\ud83d\udc1f' }])
  expect([of('c', { ctrl: true }), of('x', { meta: true }), of('\u0001')]).toEqual([[], [], []])
})
