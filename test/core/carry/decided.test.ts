import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { CarriedDecided } from '../../../src/core/carry/carry-decided.ts'
import { carryDecided } from '../../../src/core/carry/carry-decided.ts'
import type { CarriedText } from '../../../src/core/carry/carry-text.ts'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import type { ReadDocuments } from '../../../src/core/carry/plan-texts.ts'
import type { Triple } from '../../../src/core/document/sides.ts'
import { SIDES } from '../../../src/core/document/sides.ts'
import type { FormatName } from '../../../src/core/formats/index.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'
import { carryLinesDecided } from '../../../src/core/lines/carry-lines.ts'
import { everyKey } from '../../../src/core/plan/every-key.ts'
import { standsAt } from '../../../src/core/report/explained.ts'
import type { Remembered } from '../../../src/core/report/remembered.ts'
import { storedValues } from '../../../src/core/report/remembered.ts'
import { IDENTITY } from '../laws/laws.ts'
import { PLAIN, stories } from '../laws/model.ts'
import { readBack } from '../laws/oracle.ts'
import { renderers } from '../laws/render.ts'
import { RUNS } from '../laws/runs.ts'

const optionsOf = (name: FormatName): Parameters<typeof carryText>[1] => ({
  format: formatNamed(name),
  path: 'a',
  identity: IDENTITY,
})

/** Every key with one value, and what stands there in the three inputs. */
function valuesOf(name: FormatName, texts: Triple<string>): Remembered[] {
  const found: ReadDocuments[] = []
  carryText(texts, { ...optionsOf(name), inspect: (each) => found.push(each) })
  return found.flatMap(({ docs, present, identities }) =>
    [...everyKey(docs, present, identities)].flatMap(({ key, nodes }) => {
      const isValue = SIDES.every((side) => {
        const [doc, node] = [docs[side], nodes[side]]
        return (
          node < 0 || doc.isValue(node) || (doc.name(node) !== '' && doc.children(node).length < 2)
        )
      })
      return isValue
        ? [{ key, ...storedValues(standsAt(docs, nodes)), take: 'value' as const }]
        : []
    }),
  )
}

function decided(
  name: FormatName,
  texts: Triple<string>,
  remembered: readonly Remembered[],
): CarriedDecided & { text: string } {
  const done = carryDecided(texts, optionsOf(name), remembered)
  return { ...done, text: done.carried.text ?? '' }
}

describe.each(renderers)('a value that is set in $name', (renderer) => {
  const told = stories(renderer.depth).map(({ old, fresh, mine }): Triple<string> => [
    renderer.render(old, PLAIN),
    renderer.render(fresh, PLAIN),
    renderer.render(mine, PLAIN),
  ])

  test('changes its key and nothing else, or is refused and changes nothing', () => {
    let applied = 0
    fc.assert(
      fc.property(told, fc.nat(), (texts, at) => {
        const keys = valuesOf(renderer.name, texts)
        const key = keys[at % Math.max(1, keys.length)]
        if (key === undefined) return
        const open = carryText(texts, optionsOf(renderer.name))
        const { text, recalled, carried } = decided(renderer.name, texts, [
          { ...key, value: '777' },
        ])
        const isAsked = open.conflicts.some((each) => each.key === key.key)
        if (recalled.applied.length === 0) {
          expect(text).toBe(open.text)
          expect(recalled.notApplied.length + recalled.earlier.length).toBe(1)
          return
        }
        applied++
        const before = readBack(open.text ?? '', renderer).values
        const after = readBack(text, renderer).values
        const differing = [...new Set([...before.keys(), ...after.keys()])].filter(
          (each) => before.get(each) !== after.get(each),
        )
        // the operator's own entry may get another name: then all in it is told under that
        if (!/(^|[/@])id$/.test(key.key)) {
          expect(differing.length).toBeLessThanOrEqual(1)
          for (const each of differing) expect(after.get(each)).toBe('777')
        }
        const rows = carried.changes.filter((row) => row.key === key.key)
        expect(rows.map(({ by, wasConflict }) => [by, wasConflict !== undefined])).toEqual([
          ['decision', isAsked],
        ])
        // all else is told as it was, ids too
        const others = ({ conflicts }: CarriedText): string[] =>
          conflicts.filter((row) => row.key !== key.key).map(({ key: name, id }) => `${name} ${id}`)
        expect(others(carried)).toEqual(others(open))
      }),
      RUNS,
    )
    expect(applied).toBeGreaterThan(RUNS.numRuns / 4)
  })

  test('is applied again to the same three texts, and gives the same', () => {
    fc.assert(
      fc.property(told, (texts) => {
        const open = carryText(texts, optionsOf(renderer.name))
        const remembered = open.conflicts.map(
          ({ key, id, old, new: fresh, mine }, at): Remembered => ({
            key,
            id,
            ...storedValues({ old, new: fresh, mine }),
            take: at % 2 === 0 ? 'vanilla' : 'mine',
          }),
        )
        const one = decided(renderer.name, texts, remembered)
        expect(one.recalled.applied).toHaveLength(remembered.length)
        expect(one.carried.conflicts).toEqual([])
        const other = decided(renderer.name, texts, [...remembered].reverse())
        expect(other.text).toBe(one.text)
      }),
      RUNS,
    )
  })
})

describe('what was decided', () => {
  const xml = (worth: string, most: string, id = 'bell'): string =>
    `<finds>\r\n  <find id="${id}">\r\n    <worth>${worth}</worth>\r\n    <yield most="${most}"/>\r\n  </find>\r\n</finds>\r\n`
  const worth = (values: [string, string, string], value: string, id?: string): Remembered => ({
    key: 'find[bell]/worth',
    ...(id === undefined ? {} : { id }),
    old: values[0],
    new: values[1],
    mine: values[2],
    take: 'value',
    value,
  })

  test('for other values is an earlier answer where the key is in question, and no answer else', () => {
    const texts: Triple<string> = [xml('1', '2'), xml('4', '2'), xml('3', '2')]
    const asked = decided('xml', texts, [worth(['1', '2', '3'], '9', 'abcdefabcdef')])
    expect(asked.recalled.earlier).toHaveLength(1)
    expect(asked.carried.conflicts).toHaveLength(1)
    const calm = decided('xml', [texts[0], texts[1], texts[0]], [worth(['1', '2', '1'], '9')])
    expect(calm.recalled.notApplied).toMatchObject([{ why: 'other values stand there now' }])
    // put live since
    const done = decided(
      'xml',
      [xml('4', '2'), xml('4', '2'), xml('9', '2')],
      [worth(['1', '4', '1'], '9')],
    )
    expect(done.recalled).toEqual({ applied: [], earlier: [], notApplied: [] })
    const gone = decided('xml', texts, [
      { ...worth(['1', '4', '3'], '9'), key: 'find[gong]/worth' },
    ])
    expect(gone.recalled.notApplied).toMatchObject([{ why: 'no input has this key now' }])
  })

  test('sets a value that vanilla retuned, that nobody touched, or that vanilla brought, in the line ends of the file', () => {
    const texts: Triple<string> = [xml('1', '2'), xml('4', '2'), xml('1', '2')]
    const most: Remembered = {
      key: 'find[bell]/yield/@most',
      ...{ old: '2', new: '2', mine: '2' },
      take: 'value',
      value: '5" & 6',
    }
    const { text, carried } = decided('xml', texts, [worth(['1', '4', '1'], '7'), most])
    expect(text).toBe(xml('7', '5&quot; &amp; 6'))
    expect(carried.changes).toMatchObject([
      { key: 'find[bell]/worth', old: '1', new: '4', mine: '1', result: '7', by: 'decision' },
      { key: 'find[bell]/yield/@most', old: '2', mine: '2', by: 'decision' },
    ])
    const brought = decided(
      'ini',
      ['[sea]\na = 1\n', '[sea]\na = 1\nb = 2\n', '[sea]\na = 1\n'],
      [{ key: 'sea/b', old: null, new: '2', mine: null, take: 'value', value: '3' }],
    )
    expect(brought.text).toBe('[sea]\na = 1\nb = 3\n')
  })

  test('is refused where it would make an entry another one, or where the result lacks the key', () => {
    const bells = (...ids: string[]): string =>
      `[${ids.map((id) => `{ "id": "${id}", "worth": 1 }`).join(', ')}]\n`
    const same: Triple<string> = [bells('a', 'b', 'c'), bells('a', 'b', 'c'), bells('a', 'b', 'c')]
    const id: Remembered = {
      key: '[b]/id',
      ...{ old: 'b', new: 'b', mine: 'b' },
      take: 'value',
      value: 'z',
    }
    const renamed = decided('json', same, [id])
    expect(renamed.text).toBe(same[0])
    expect(renamed.recalled.notApplied[0]?.why).toContain('more than this key would change')
    const dropped = decided(
      'json',
      [bells('a', 'b', 'c'), bells('a', 'c'), bells('a', 'b', 'c')],
      [{ key: '[b]/worth', old: '1', new: null, mine: '1', take: 'value', value: '5' }],
    )
    expect(dropped.text).toBe(bells('a', 'c'))
    expect(dropped.recalled.notApplied[0]?.why).toContain('does not have this key')
  })

  test('of lines gives those of vanilla, of mine, of both, or what was written', () => {
    const texts: Triple<string> = ['a\nb\nc\n', 'a\nB\nc\n', 'a\nbb\nc\n']
    const open = carryLinesDecided(texts, 'a', []).carried
    const [conflict] = open.conflicts
    if (conflict === undefined) throw new Error('nothing is asked')
    const { key, id, old, new: fresh, mine } = conflict
    const as = (take: Remembered['take'], value?: string): string | undefined =>
      carryLinesDecided(texts, 'a', [
        { key, id, old, new: fresh, mine, take, ...(value === undefined ? {} : { value }) },
      ]).carried.text
    expect(as('vanilla')).toBe('a\nB\nc\n')
    expect(as('mine')).toBe('a\nbb\nc\n')
    expect(as('both')).toBe('a\nB\nbb\nc\n')
    expect(as('value', 'x')).toBe('a\nx\nc\n')
    const other = carryLinesDecided(texts, 'a', [{ ...conflict, id: '000000000000', take: 'mine' }])
    expect(other.recalled.earlier).toHaveLength(1)
  })
})

describe('edits that go onto another entry', () => {
  const find = (id: string, of: string, worth: number, crew = of): string =>
    `  <find id="${id}"><worth>${worth}</worth><depth>${of}d</depth><hold>${of}h</hold><crew>${crew}</crew></find>\n`
  const finds = (...bell: string[]): string =>
    `<finds>\n${['lamp', 'rope', 'horn'].map((id) => find(id, id, 10)).join('')}${bell.join('')}</finds>\n`

  test('are in it, and the entry that vanilla dropped is not', () => {
    const texts: Triple<string> = [
      finds(find('bell', 'bell', 10)),
      finds(find('chime', 'bell', 10, 'two')),
      finds(find('bell', 'bell', 99)),
    ]
    const [asked] = carryText(texts, optionsOf('xml')).conflicts
    expect(asked).toMatchObject({ kind: 'gone-in-vanilla', perhaps: { key: 'find[chime]' } })
    const { id, old, new: fresh, mine } = asked ?? { id: '', old: null, new: null, mine: null }
    const onto = (to: string): Remembered => ({
      key: 'find[bell]',
      id,
      ...storedValues({ old, new: fresh, mine }),
      take: 'onto',
      value: to,
    })
    const done = decided('xml', texts, [onto('find[chime]')])
    expect(done.text).toBe(finds(find('chime', 'bell', 99, 'two')))
    expect([done.recalled.applied.length, done.carried.conflicts]).toEqual([1, []])
    const wrong = decided('xml', texts, [onto('find[gong]')])
    expect(wrong.recalled.notApplied).toHaveLength(1)
    expect(wrong.carried.conflicts).toHaveLength(1)
  })
})
