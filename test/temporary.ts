import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll } from 'vitest'

const made: string[] = []
afterAll(() => {
  for (const folder of made) rmSync(folder, { recursive: true, force: true })
})

/** A new folder that is gone when the tests of the file have run; the word tells whose it is. */
export function temporaryFolder(word: string): string {
  const folder = mkdtempSync(join(tmpdir(), `anagnosis-${word}-`))
  made.push(folder)
  return folder
}
