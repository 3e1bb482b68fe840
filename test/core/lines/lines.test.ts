import fc from 'fast-check'
import { expect, test } from 'vitest'
import { carryLines } from '../../../src/core/lines/carry-lines.ts'
import { diff } from '../../../src/core/likeness/diff.ts'

const line = fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f', 'g', '')
const text = fc.array(line, { maxLength: 12 })
const written = (lines: readonly string[]): string => lines.map((each) => `${each}\n`).join('')

test('hunks turn the one sequence into the other, and touch nothing else', () => {
  fc.assert(
    fc.property(text, text, (a, b) => {
      let at = 0
      const made: string[] = []
      for (const { aStart, aEnd, bStart, bEnd } of diff(a, b)) {
        expect(aStart).toBeGreaterThanOrEqual(at)
        made.push(...a.slice(at, aStart), ...b.slice(bStart, bEnd))
        at = aEnd
      }
      expect([...made, ...a.slice(at)]).toEqual(b)
    }),
    { numRuns: 1000, seed: 4102 },
  )
})

test('the laws of rest, symmetry and stillness hold for texts', () => {
  fc.assert(
    fc.property(text, text, text, (old, fresh, mine) => {
      const [o, n, m] = [written(old), written(fresh), written(mine)]
      expect(carryLines([o, n, o], 'a').text).toBe(n)
      expect(carryLines([o, o, m], 'a').text).toBe(m)
      expect(carryLines([o, m, m], 'a').text).toBe(m)
      const one = carryLines([o, n, m], 'a')
      const other = carryLines([o, m, n], 'a')
      expect(other.conflicts.map((each) => each.key)).toEqual(one.conflicts.map((each) => each.key))
      const told = `${one.text ?? ''}${one.conflicts.map((each) => each.new ?? '').join('\n')}`
      for (const each of fresh) if (!old.includes(each)) expect(told).toContain(each)
      expect(carryLines([o, n, one.text ?? ''], 'a').text).toBe(one.text)
    }),
    { numRuns: 1000, seed: 4102 },
  )
})

test('what one side put in behind a line that the other changed is not put in twice', () => {
  const carried = (mine: string) => carryLines(['a\nb\nc\n', 'a\nb\nnew\nc\n', mine], 'a')
  expect(carried('a\nB\nc\n')).toMatchObject({ text: 'a\nB\nnew\nc\n', conflicts: [] })
  const held = carried('a\nB\nnew\nc\n')
  expect(held).toMatchObject({ text: 'a\nB\nnew\nc\n', conflicts: [] })
  expect(held.changes.map(({ key, side }) => [key, side])).toEqual([
    ['lines[2]', 'mine'],
    ['lines[2+]', 'both'],
  ])
})

test('a line that each text has once stands once in the result, wherever both put it', () => {
  const distinct = fc.uniqueArray(fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f'), { maxLength: 6 })
  fc.assert(
    fc.property(distinct, distinct, distinct, (old, fresh, mine) => {
      const { text = '' } = carryLines([written(old), written(fresh), written(mine)], 'a')
      const lines = text.split('\n').slice(0, -1)
      expect(lines).toHaveLength(new Set(lines).size)
    }),
    { numRuns: 3000, seed: 4102 },
  )
  const [old, fresh, mine] = ['a\nb\nc\n', 'b\na\nc\n', 'b\nc\na\n']
  const { text, conflicts } = carryLines([old, fresh, mine], 'a')
  expect(text).toBe(mine)
  expect(conflicts.map((each) => [each.new, each.mine])).toEqual([
    ['a', null],
    [null, 'a'],
  ])
})

test('of each line there are as many as both made of them, where nobody is asked', () => {
  const few = fc.array(fc.constantFrom('a', 'b', 'c'), { maxLength: 4 })
  const times = (lines: readonly string[], line: string): number =>
    lines.filter((each) => each === line).length
  fc.assert(
    fc.property(few, few, few, (old, fresh, mine) => {
      const carried = carryLines([written(old), written(fresh), written(mine)], 'a')
      if (carried.conflicts.length > 0) return
      const lines = (carried.text ?? '').split('\n')
      for (const line of old) {
        const [was, inNew, inMine] = [old, fresh, mine].map((each) => times(each, line))
        if (was === inNew) expect(times(lines, line)).toBe(inMine)
        if (was === inMine) expect(times(lines, line)).toBe(inNew)
      }
    }),
    { numRuns: 3000, seed: 4102 },
  )
})

test('the end of a last blank line is no form of the file', () => {
  const { text, conflicts } = carryLines(['a\n', 'a', 'b\na\n\n'], 'a')
  expect({ text, conflicts }).toEqual({ text: 'b\na\n\n', conflicts: [] })
})

test('a long text with a long difference is compared in reasonable steps', () => {
  const many = Array.from({ length: 20_000 }, (_, i) => `line ${i}`)
  const other = many.map((each, i) => (i % 1000 === 0 ? `${each} anew` : each))
  expect(diff(many, other)).toHaveLength(20)
  expect(diff(Array<string>(4000).fill('x'), Array<string>(4000).fill('y'))).toHaveLength(1)
})
