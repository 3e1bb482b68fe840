import assert from 'node:assert/strict'
import {
  lstatSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  readlinkSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import fc from 'fast-check'
import { carryPaths } from '../../src/workspace/carry/carry-paths.ts'
import { encode } from '../../src/workspace/content/text-file.ts'

/** A file of a made-up release, as one side has it. */
interface Sketch {
  name: string
  sort: 'xml' | 'json' | 'ini' | 'text' | 'binary' | 'link' | 'folder'
  encoding: 'utf-8' | 'marked' | 'utf-16le' | 'utf-16be' | 'latin1'
  crlf: boolean
  /** What old, new and mine have in it; null where they have no such file. */
  worth: [number | null, number | null, number | null]
  most: [number, number, number]
}

const number = fc.nat(2)

export const sketches: fc.Arbitrary<Sketch[]> = fc.uniqueArray(
  fc.record({
    name: fc.constantFrom('a', 'b', 'c/a', 'c/b', 'c/d/a', 'Ä b', '__proto__'),
    sort: fc.constantFrom('xml', 'json', 'ini', 'text', 'binary', 'link', 'folder'),
    encoding: fc.constantFrom('utf-8', 'marked', 'utf-16le', 'utf-16be', 'latin1'),
    crlf: fc.boolean(),
    worth: fc.tuple(
      fc.option(number, { freq: 5 }),
      fc.option(number, { freq: 5 }),
      fc.option(number, { freq: 5 }),
    ),
    most: fc.tuple(number, number, number),
  }),
  { selector: ({ name, sort }) => `${name}.${sort}`, minLength: 1, maxLength: 7 },
)

function textOf({ sort }: Sketch, worth: number, most: number): string {
  if (sort === 'xml')
    return `<a>\n  <b id="Köder" worth="${worth}"/>\n  <b id="y"><most>${most}</most></b>\n</a>\n`
  if (sort === 'json') return `{\n  "bait": "Köder",\n  "worth": ${worth},\n  "most": ${most}\n}\n`
  if (sort === 'ini') return `[Köder]\nworth = ${worth}\nbait = Wurm\nfog = on\nmost = ${most}\n`
  return `Köder\n${worth}\nfog\nfog\nfog\n${most}\n`
}

function bytesOf(sketch: Sketch, worth: number, most: number): Buffer {
  if (sketch.sort === 'binary') return Buffer.from([0, worth, 255, most, 0])
  const text = textOf(sketch, worth, most).replaceAll('\n', sketch.crlf ? '\r\n' : '\n')
  const marked = sketch.encoding !== 'utf-8' && sketch.encoding !== 'latin1'
  const encoding = sketch.encoding === 'marked' ? 'utf-8' : sketch.encoding
  const plain = sketch.sort === 'xml' || sketch.sort === 'json' // these say their encoding, or are UTF-8
  const form = plain && encoding === 'latin1' ? 'utf-8' : encoding
  return encode(text, { encoding: form, bom: marked })
}

function writeSide(folder: string, all: readonly Sketch[], side: number): void {
  mkdirSync(folder, { recursive: true })
  for (const sketch of all) {
    const worth = sketch.worth[side] ?? null
    if (worth === null) continue
    const path = join(folder, `${sketch.name}.${sketch.sort}`)
    mkdirSync(dirname(path), { recursive: true })
    if (sketch.sort === 'folder') mkdirSync(path)
    else if (sketch.sort === 'link') symlinkSync(`to-${worth}`, path)
    else writeFileSync(path, bytesOf(sketch, worth, sketch.most[side] ?? 0))
  }
}

/** All that stands in a folder, by path. */
function contents(folder: string): Record<string, string> {
  const found: Record<string, string> = {}
  for (const path of readdirSync(folder, { recursive: true, encoding: 'utf8' }).sort()) {
    const location = join(folder, path)
    const stat = lstatSync(location)
    if (stat.isSymbolicLink()) found[path] = `link ${readlinkSync(location)}`
    else if (stat.isFile()) found[path] = readFileSync(location, 'latin1')
    else if (readdirSync(location).length === 0) found[path] = 'empty folder'
  }
  return found
}

/** The laws that hold of folders as they do of files: rest and stillness, byte for byte. */
export async function checkFolders(all: readonly Sketch[]): Promise<void> {
  const root = mkdtempSync(join(tmpdir(), 'anagnosis-soak-'))
  const at = (name: string): string => join(root, name)
  const carried = async (
    [old, fresh, mine]: [string, string, string],
    out: string,
  ): Promise<Record<string, string>> => {
    const paths = { old: at(old), new: at(fresh), mine: at(mine), out: at(out) }
    await carryPaths({ paths, config: {}, replace: true })
    return contents(at(out))
  }
  try {
    for (const [side, name] of ['o', 'n', 'm'].entries()) writeSide(at(name), all, side)
    writeSide(at('o2'), all, 0)
    assert.deepEqual(await carried(['o', 'n', 'o2'], 'x'), contents(at('n')), 'carry(O, N, O) is N')
    assert.deepEqual(await carried(['o', 'o2', 'm'], 'x'), contents(at('m')), 'carry(O, O, M) is M')
    const result = await carried(['o', 'n', 'm'], 'r')
    assert.deepEqual(await carried(['o', 'n', 'r'], 's'), result, 'a carry repeated is still')
    assert.deepEqual(readdirSync(root).sort(), ['m', 'n', 'o', 'o2', 'r', 's', 'x'], 'no rest')
  } finally {
    rmSync(root, { recursive: true })
  }
}
