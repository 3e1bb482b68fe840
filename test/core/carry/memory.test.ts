import { setImmediate } from 'node:timers/promises'
import { setFlagsFromString } from 'node:v8'
import { runInNewContext } from 'node:vm'
import { expect, test } from 'vitest'
import type { CarriedText } from '../../../src/core/carry/carry-text.ts'
import { carryText } from '../../../src/core/carry/carry-text.ts'
import { formatNamed } from '../../../src/core/formats/index.ts'

const NOTE = 'Heavier than it looks, and older than anything else that was ever salvaged.'
const MEGABYTE = 1 << 20

/** A release of finds; a side that edited sets the worth of some, with a comment, and drops three. */
function finds(edited: string): string {
  const entries = Array.from({ length: 30_000 }, (_, i) => {
    const isEdited = edited !== '' && (i % 100 === 7 || i % 100 === edited.length)
    const [worth, note] = isEdited
      ? [`${NOTE} ${edited}`, `<!-- ${edited} ${NOTE} -->`]
      : [NOTE, '']
    return `  <find id="the-long-lost-find-${i}">\n    <worth>${worth}</worth>${note}\n    <note>${NOTE} ${i}</note>\n  </find>\n`
  })
  if (edited !== '') entries.splice(edited.length * 40, 3)
  return `<finds>\n${entries.join('')}</finds>\n`
}

/** The heap in use when all has been let go that can be, in bytes. */
async function heapInUse(): Promise<number> {
  setFlagsFromString('--expose-gc')
  const collect = runInNewContext('gc') as () => void
  // the engine keeps the text in which an expression was found last
  expect('-').toMatch(/-/)
  // what is on the stack, or compiled in the background, is let go only between tasks
  for (let round = 0; round < 3; round++) {
    await setImmediate()
    collect()
  }
  return process.memoryUsage().heapUsed
}

function carried(): CarriedText {
  const told = carryText([finds(''), finds('vanilla'), finds('old harbour')], {
    format: formatNamed('xml'),
    path: 'salvage/finds.xml',
  })
  return { ...told, text: undefined }
}

test('what a carry tells does not keep the texts in memory that it was cut from', async () => {
  const before = await heapInUse()
  const told = carried()
  const kept = (await heapInUse()) - before
  expect(told.conflicts.length).toBeGreaterThan(200)
  expect(told.changes.length).toBeGreaterThan(300)
  expect(told.problems.length).toBeGreaterThan(100)
  // three texts of 8 MB were carried
  expect(kept).toBeLessThan(5 * MEGABYTE)
})
