import { existsSync, statSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { CONFIG_NAME } from './state/layout.ts'

/** The nearest folder from `start` upwards that holds an `anagnosis.yaml`; undefined where there is none. */
export function findRoot(start: string): string | undefined {
  for (let folder = resolve(start); ; folder = dirname(folder)) {
    const path = join(folder, CONFIG_NAME)
    if (existsSync(path) && statSync(path).isFile()) return folder
    if (dirname(folder) === folder) return undefined
  }
}
