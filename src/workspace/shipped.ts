import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

/** Where something stands that comes with the program: beside the built program's folder. */
export function shipped(...path: string[]): string {
  return join(dirname(fileURLToPath(import.meta.url)), '..', ...path)
}
