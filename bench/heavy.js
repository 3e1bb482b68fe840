// A heavy update, as big releases are: half of 3,000 JSON files changed, about 150,000 rows, of which half
// are entries and members that came and a third such that went.
import { mkdirSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { numbers } from './data.js'

const FILES = 3000
/** Every so many files one is changed; of the changed ones every so many are changed in a thousand places. */
const EACH_CHANGED = 2
const EACH_REWRITTEN = 14
/** Every so many files one holds a list whose entries nothing names. */
const EACH_NAMELESS = 5
/** Places that vanilla changes in a file, and in one that is rewritten. */
const SOME = 31
const MANY = 1400
/** How many edits mine has in all. */
const EDITS = 500

const WORDS = ['lamp', 'bell', 'clasp', 'anchor', 'float', 'sextant', 'chest', 'buoy', 'keel']
const word = (next) => WORDS[Math.floor(next() * WORDS.length)]
const whole = (next, most) => Math.floor(next() * most)

/** An entry of a list: with a name of its own, or told by what it holds alone. */
function entry(next, named, id) {
  const values = {
    class: word(next),
    at: [whole(next, 900), whole(next, 900)],
    worth: whole(next, 5000),
    bed: { depth: whole(next, 400), bottom: word(next) },
  }
  return named ? { id, ...values } : { ...values, hours: whole(next, 10_000) }
}

/** Members by name, of which vanilla brings and drops some, too. */
function members(next, count) {
  return Object.fromEntries(
    Array.from({ length: count }, (_, i) => [`${word(next)}_${i}`, whole(next, 900)]),
  )
}

function release(next, i, isBig) {
  const named = i % EACH_NAMELESS !== 0
  const count = isBig ? 760 : 26 + whole(next, 26)
  return {
    release: 'old',
    finds: Array.from({ length: count }, (_, n) => entry(next, named, `${word(next)}-${i}-${n}`)),
    limits: members(next, isBig ? 360 : 24),
  }
}

/** The place to change next: more lists than members, as there are more of them. */
function change(next, file, i, n, named) {
  const sort = next()
  const inList = next() < 0.7
  const names = Object.keys(file.limits)
  const at = whole(next, file.finds.length)
  const name = names[whole(next, names.length)]
  if (sort < 0.5) {
    if (inList) file.finds.splice(at, 0, entry(next, named, `new-${i}-${n}`))
    else file.limits[`new_${n}`] = whole(next, 900)
  } else if (sort < 0.83) {
    if (inList && file.finds.length > 1) file.finds.splice(at, 1)
    else
      file.limits = Object.fromEntries(
        Object.entries(file.limits).filter(([each]) => each !== name),
      )
  } else if (inList && file.finds[at] !== undefined)
    file.finds[at] = { ...file.finds[at], worth: 5000 + n }
  else if (name !== undefined) file.limits[name] = 1000 + n
}

const text = (file) => `${JSON.stringify(file, null, 1)}\n`

/** Writes three trees of files: old, new and mine. */
export function writeHeavy(folder) {
  const next = numbers(4102)
  let changed = 0
  let edits = 0
  for (let i = 0; i < FILES; i++) {
    const isChanged = i % EACH_CHANGED === 0
    const isBig = isChanged && changed % EACH_REWRITTEN === 0
    const named = i % EACH_NAMELESS !== 0
    const old = release(next, i, isBig)
    const fresh = structuredClone(old)
    if (isChanged) {
      changed++
      for (let n = 0; n < (isBig ? MANY : SOME); n++) change(next, fresh, i, n, named)
    }
    const mine = structuredClone(old)
    if (i % Math.floor(FILES / EDITS) === 0 && edits++ < EDITS) {
      const at = whole(next, mine.finds.length)
      mine.finds[at] = { ...mine.finds[at], worth: 9999 }
    }
    for (const [side, file] of Object.entries({ old, new: fresh, mine })) {
      const path = join(folder, side, `finds/${i % 50}`, `${i}.json`)
      mkdirSync(dirname(path), { recursive: true })
      writeFileSync(path, text(file))
    }
  }
}
