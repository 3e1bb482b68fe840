import fc from 'fast-check'
import { expect, test } from 'vitest'
import { FORMAT_NAMES } from '../../src/core/formats/index.ts'
import { editedText, textEdits } from '../core/laws/text-edits.ts'
import { beginnings, checkDocuments } from './documents.ts'
import { checkFolders, sketches } from './folders.ts'
import { checkReading, mutated } from './fuzz.ts'

/*
 * A short stretch of the long runs (npm run soak), always from the same seed.
 */
const SEED = 4102
const starts = beginnings('demo/data')
const shares = fc.double({ min: 0, max: 0.999, noNaN: true })

test.each(FORMAT_NAMES)('%s: whatever is done to its lines, the laws hold', (format) => {
  fc.assert(
    fc.property(fc.constantFrom(...starts[format]), textEdits, textEdits, (old, fresh, mine) => {
      const texts = [fresh, mine].map((edits, i) => editedText(old, edits, format, `side${i}x`))
      checkDocuments([old, texts[0] ?? '', texts[1] ?? ''], format)
    }),
    { seed: SEED, numRuns: 60 },
  )
})

test.skipIf(process.platform === 'win32')(
  'folders: rest and stillness, byte for byte',
  async () => {
    await fc.assert(fc.asyncProperty(sketches, checkFolders), { seed: SEED, numRuns: 20 })
  },
)

test.each(FORMAT_NAMES)('%s: bytes of any kind are read, or refused with a place', (format) => {
  fc.assert(
    fc.property(fc.constantFrom(...starts[format]), fc.infiniteStream(shares), (text, from) => {
      const next = (): number => from.next().value ?? 0
      expect(() => {
        checkReading(mutated(Buffer.from(text), next), format)
      }).not.toThrow()
    }),
    { seed: SEED, numRuns: 300 },
  )
})
