import { test } from 'vitest'
import { carryText } from '../src/core/carry/carry-text.ts'
import { formatNamed } from '../src/core/formats/index.ts'
import { ValueCarry } from '../src/core/match/carry-values.ts'
test('dbg', () => {
  const proto = ValueCarry.prototype as any
  const orig = proto.partsOf
  proto.partsOf = function (m: any, s: any) {
    const r = orig.call(this, m, s)
    const show = (v: any): any => v.text ?? (v.parts.length ? (v.name||v.kind)+'('+v.parts.map(show)+')' : '{}')
    console.log(m.told.items.map((l: any) => l.map((i: any) => show(i.value)).join(' ')), '=>', r.parts.map(show).join(' '), JSON.stringify({ o: r.isOpen, q: r.isQuestion, h: m.holding, mq: m.isQuestion, st: m.stretches.map((x: any) => [...x]) }))
    return r
  }
  const [o, n, m] = (process.env.T ?? '').split('|') as [string, string, string]
  const r = carryText([o, n, m], { format: formatNamed((process.env.F ?? 'json') as any), path: 'a' })
  console.log(r.text, r.changes.map((c) => [c.key, c.side, c.kind, c.old, c.new, c.mine, c.result].join(' ')), r.conflicts.map((c) => [c.key, c.kind, c.old, c.new, c.mine].join(' ')))
})
