// Writes the data of the measurements: releases of Saltlantern far bigger than it is, and the files that
// Old Harbour made of them. The same seed gives the same bytes.
import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

/** A small generator of numbers that are the same on every machine (mulberry32). */
export function numbers(seed) {
  let state = seed
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296
  }
}

const CLASSES = ['lamp', 'bell', 'clasp', 'anchor', 'float', 'sextant', 'chest']
const BOTTOMS = ['sand', 'silt', 'rock', 'kelp', 'coral', 'clay', 'gravel']

/** One find, the same for the same number; `worth` and `most` are what releases and operators change. */
function find(i) {
  return {
    id: `${CLASSES[i % 7]}-${i}`,
    class: CLASSES[i % 7],
    from: (i * 7) % 400,
    bottom: BOTTOMS[(i * 3) % 7],
    weight: (i % 300) / 10,
    worth: 5 + ((i * 13) % 200) * 5,
    most: 2,
    hours: 12 + (i % 5) * 12,
  }
}

function asXml({ id, class: sort, from, bottom, weight, worth, most, hours }) {
  return `  <find id="${id}" class="${sort}">
    <bed>
      <depth from="${from}" to="${from + 20}"/>
      <bottom>${bottom}</bottom>
    </bed>
    <yield least="1" most="${most}"/>
    <weight>${weight}</weight>
    <worth>${worth}</worth>
    <decay hours="${hours}"/>
    <note>Heavier than it looks, and older: ${id}.</note>
  </find>
`
}

function asJson({ id, class: sort, from, bottom, weight, worth, most, hours }) {
  return `    {
      "id": "${id}",
      "class": "${sort}",
      "bed": { "depth": [${from}, ${from + 20}], "bottom": "${bottom}" },
      "yield": { "least": 1, "most": ${most} },
      "weight": ${weight},
      "worth": ${worth},
      "decay": { "hours": ${hours} },
      "note": "Heavier than it looks, and older: ${id}."
    }`
}

/** The three texts of a big container: 5 % changed by vanilla, 5 % edited by mine, a few added and dropped by each. */
export function bigFile(format, count, seed = 4102) {
  const next = numbers(seed)
  const lists = { old: [], new: [], mine: [] }
  for (let i = 0; i < count; i++) {
    const entry = find(i)
    lists.old.push(entry)
    if (next() > 0.001) lists.new.push(next() < 0.05 ? { ...entry, worth: entry.worth + 5 } : entry)
    if (next() > 0.001) lists.mine.push(next() < 0.05 ? { ...entry, most: 8 } : entry)
    if (next() < 0.002) lists.new.push({ ...find(i), id: `new-${i}` })
    if (next() < 0.002) lists.mine.push({ ...find(i), id: `harbour-${i}` })
  }
  const text = (entries) =>
    format === 'xml'
      ? `<?xml version="1.0" encoding="utf-8"?>\n<finds>\n${entries.map(asXml).join('')}</finds>\n`
      : `{\n  "finds": [\n${entries.map(asJson).join(',\n')}\n  ]\n}\n`
  return Object.fromEntries(Object.entries(lists).map(([name, entries]) => [name, text(entries)]))
}

/** Writes three files; gives their bytes in all. */
export function writeThree(folder, extension, texts) {
  mkdirSync(folder, { recursive: true })
  let bytes = 0
  for (const [name, text] of Object.entries(texts)) {
    writeFileSync(join(folder, `${name}.${extension}`), text)
    bytes += Buffer.byteLength(text)
  }
  return bytes
}

/** Writes three trees of many small JSON files: vanilla changes a fifth of them, mine another; gives the paths. */
export function writeTrees(folder, count) {
  const paths = []
  for (let i = 0; i < count; i++) {
    const path = `finds/${i % 50}/${i}.json`
    paths.push(path)
    const texts = bigFile('json', 19, i)
    const { old } = texts
    const three = {
      old,
      new: i % 5 === 0 ? texts.new : old,
      mine: i % 5 === 1 || i % 25 === 0 ? texts.mine : old,
    }
    for (const [name, text] of Object.entries(three)) {
      mkdirSync(join(folder, name, `finds/${i % 50}`), { recursive: true })
      writeFileSync(join(folder, name, path), text)
    }
  }
  return paths
}
