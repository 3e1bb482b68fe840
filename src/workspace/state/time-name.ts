import { stat } from 'node:fs/promises'

/**
 * A name for what is kept of a variant: `old-harbour-20260314-1902`, with a number behind where that is taken.
 *
 * @param locate where something of a name would be
 */
export async function freeTimeName(
  variant: string,
  now: Date,
  locate: (name: string) => string,
): Promise<string> {
  const two = (number: number): string => String(number).padStart(2, '0')
  const day = `${now.getFullYear()}${two(now.getMonth() + 1)}${two(now.getDate())}`
  const base = `${variant}-${day}-${two(now.getHours())}${two(now.getMinutes())}`
  for (let number = 1; ; number++) {
    const name = number === 1 ? base : `${base}-${number}`
    const there = await stat(locate(name)).catch(() => undefined)
    if (there === undefined) return name
  }
}
