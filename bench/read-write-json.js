// What the measurements of folders compare with: JSON.parse on all files of three folders, and the files of
// the last one written to another place.
//   node read-write-json.js OLD NEW MINE
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'

const sides = process.argv.slice(2)
const out = mkdtempSync('reference-')
for (const side of sides) {
  for (const each of readdirSync(side, { recursive: true, withFileTypes: true })) {
    if (!each.isFile()) continue
    const path = join(each.parentPath, each.name)
    const bytes = readFileSync(path)
    JSON.parse(bytes.toString('utf8'))
    if (side !== sides.at(-1)) continue
    const target = join(out, path)
    mkdirSync(dirname(target), { recursive: true })
    writeFileSync(target, bytes)
  }
}
