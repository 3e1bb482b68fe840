// Draws the rooms of core and what each imports, as `docs/rooms.svg`, from the imports of the source.
//   node scripts/rooms.js [--check]
// With --check nothing is written: it ends with 1 where the picture is not that of the source.
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join, relative, resolve, sep } from 'node:path'
import { fileURLToPath } from 'node:url'
import { CORE } from './core-rooms.js'

const home = fileURLToPath(new URL('..', import.meta.url))
const core = join(home, 'src', 'core')
const picture = join(home, 'docs', 'rooms.svg')

/** What the walk of one text does in a room. */
const WALK = {
  document: 'a text as spans: tree, lines, units',
  formats: 'a text of one format, read into a tree',
  keys: 'how a place in a file is named',
  likeness: 'values without form, and how alike they are',
  identity: 'what names the entries of a place',
  match: 'which entry is which in the other documents',
  plan: 'what becomes of each, as plain data',
  write: 'the text, from the plan',
  report: 'rows and conflicts, from the plan',
  carry: 'one text from beginning to end; the proof',
  lines: 'texts without keys',
  grouping: 'many changes as few',
  facts: 'what commands tell',
}

/** How many imports each room has of each other one. */
function importsOf(room) {
  const counts = new Map()
  for (const file of readdirSync(join(core, room), { recursive: true })) {
    if (!file.endsWith('.ts')) continue
    const path = join(core, room, file)
    for (const [, from] of readFileSync(path, 'utf8').matchAll(/from '(\.[^']+)'/g)) {
      const [other] = relative(core, resolve(dirname(path), from)).split(sep)
      if (other !== room) counts.set(other, (counts.get(other) ?? 0) + 1)
    }
  }
  return counts
}

const ROW = 30
const LEFT = 420
const COLUMN = 62
const TOP = 70

function drawn() {
  const width = LEFT + CORE.length * COLUMN + 20
  const height = TOP + CORE.length * ROW + 20
  const parts = [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" font-family="sans-serif" font-size="13">`,
    `<rect width="${width}" height="${height}" fill="#fff"/>`,
    `<text x="20" y="24" font-size="15" font-weight="bold" fill="#1d2733">The rooms of core, from the bottom up; dots: how much a row imports of a column</text>`,
  ]
  for (const [at, room] of CORE.entries()) {
    const y = TOP + at * ROW
    const x = LEFT + at * COLUMN
    if (at % 2 === 0)
      parts.push(`<rect x="10" y="${y}" width="${width - 20}" height="${ROW}" fill="#eef3f7"/>`)
    parts.push(
      `<text x="${x + COLUMN / 2}" y="${TOP - 12}" text-anchor="middle" font-size="11" fill="#41505f">${room}</text>`,
    )
  }
  for (const [at, room] of CORE.entries()) {
    const y = TOP + at * ROW + ROW / 2
    parts.push(`<text x="20" y="${y + 5}" font-weight="bold" fill="#1d2733">${room}</text>`)
    parts.push(`<text x="110" y="${y + 5}" fill="#41505f">${WALK[room] ?? ''}</text>`)
    for (const [other, count] of importsOf(room)) {
      const x = LEFT + CORE.indexOf(other) * COLUMN + COLUMN / 2
      const radius = count > 20 ? 11 : count > 4 ? 7 : 4
      parts.push(`<circle cx="${x}" cy="${y}" r="${radius}" fill="#2b6c8f"/>`)
    }
    const own = LEFT + at * COLUMN
    parts.push(
      `<rect x="${own + COLUMN / 2 - 9}" y="${y - 9}" width="18" height="18" fill="none" stroke="#c98a1b" stroke-width="2"/>`,
    )
  }
  return `${parts.join('\n')}\n</svg>\n`
}

const now = drawn()
const is = existsSync(picture) ? readFileSync(picture, 'utf8') : ''
if (!process.argv.includes('--check')) writeFileSync(picture, now)
else if (now !== is) {
  console.error('docs/rooms.svg is not that of the source; run node scripts/rooms.js')
  process.exit(1)
}
