import { readdirSync } from 'node:fs'

/** The names in a folder of the state, in order; none where nothing was kept there yet. */
export function namesIn(folder: string): string[] {
  try {
    return readdirSync(folder).sort()
  } catch {
    return [] // it is made by the first run that keeps something there
  }
}
