import assert from 'node:assert/strict'
import type { Tree } from '../../src/core/document/tree.ts'
import { Kind } from '../../src/core/document/kind.ts'
import { contentUnits } from '../../src/core/document/unit-list.ts'
import type { FormatName } from '../../src/core/formats/index.ts'
import { formatNamed } from '../../src/core/formats/index.ts'
import { AS_BYTES, decode } from '../../src/workspace/content/text-file.ts'

/** Longer than this no input of some hundred bytes may take to be read, in milliseconds. */
const MOST_TIME = 1000

/** Bytes of a well-formed file, with some of them changed, put in, taken out or said again. */
export function mutated(from: Buffer, next: () => number): Buffer {
  let bytes = Buffer.from(from)
  const times = 1 + Math.floor(next() * 4)
  for (let i = 0; i < times; i++) {
    const at = Math.floor(next() * bytes.length)
    const length = Math.floor(next() * next() * 40)
    const piece = bytes.subarray(at, at + length)
    const choice = next()
    const before = bytes.subarray(0, at)
    if (choice < 0.3) bytes.writeUInt8(Math.floor(next() * 256), Math.min(at, bytes.length - 1))
    else if (choice < 0.45) bytes = Buffer.concat([before, bytes.subarray(at + length)])
    else if (choice < 0.6) bytes = Buffer.concat([before, piece, bytes.subarray(at)])
    else if (choice < 0.75) {
      const mark = MARKS[Math.floor(next() * MARKS.length)] ?? ''
      bytes = Buffer.concat([before, Buffer.from(mark), bytes.subarray(at)])
    } else if (choice < 0.9) {
      const target = Math.floor(next() * bytes.length)
      bytes = Buffer.concat([bytes.subarray(0, target), piece, bytes.subarray(target)])
    } else bytes = Buffer.from(before)
    if (bytes.length === 0) return Buffer.from(' ')
  }
  return bytes
}

/** What means something to one of the formats. */
const MARKS = [
  ...'<>&;"\'=/{}[]:,\\#!?-',
  '<!--',
  '-->',
  '<![CDATA[',
  ']]>',
  '</',
  '/>',
  '&amp;',
  '&#0;',
  '<!DOCTYPE a [',
  '//',
  '/*',
  '*/',
  '\\u',
  '1e999',
  '\r',
  '\r\n',
  '\u0000',
  '\uFEFF',
  '\u{1F41F}',
]

/** An input is read into a tree that loses nothing, or has an error with a place in it; and in no time. */
export function checkReading(bytes: Buffer, name: FormatName): void {
  const decoded = decode(bytes, AS_BYTES)
  if (!('text' in decoded)) return
  const { text } = decoded
  const format = formatNamed(name)
  const start = performance.now()
  const { tree, problems } = format.reader([text]).read(text)
  assert.ok(performance.now() - start < MOST_TIME, 'it takes too long')
  for (const { span } of problems) {
    const isIn = span.start >= 0 && span.start <= span.end && span.start <= text.length
    assert.ok(isIn, `a problem at ${span.start} to ${span.end} of ${text.length}`)
  }
  if (problems.length === 0) checkTree(tree, format.separator)
}

/** Nodes stand in their parents in order, and the units of each container cover it without a gap. */
function checkTree(tree: Tree, separator: string): void {
  for (let node = 0; node < tree.length; node++) {
    const [start = 0, end = 0, next = 0] = [tree.start(node), tree.end(node), tree.next(node)]
    assert.ok(start <= end && next > node && next <= tree.length, `node ${node} has its spans`)
    let before = start
    for (let child = node + 1; child < next; child = tree.next(child) ?? next) {
      assert.ok(tree.start(child) >= before, `node ${child} begins after the one before`)
      before = tree.end(child)
    }
    assert.ok(before <= end, `the children of ${node} end in it`)
    if (CONTAINERS.has(tree.kind(node) as Kind)) checkUnits(tree, node, separator) // it holds nothing but kinds
  }
}

const CONTAINERS: ReadonlySet<Kind> = new Set([
  Kind.Document,
  Kind.Element,
  Kind.Object,
  Kind.Array,
  Kind.Section,
])

function checkUnits(tree: Tree, node: number, separator: string): void {
  const units = contentUnits(tree, node, separator)
  let at = units.openEnd
  for (let unit = 0; unit < units.length; unit++) {
    assert.equal(units.start(unit), at, `unit ${unit} of ${node} begins where the last one ended`)
    at = units.end(unit)
  }
  assert.equal(units.closeStart, at, `the units of ${node} reach its end`)
}
