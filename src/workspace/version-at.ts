import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { parsePlace } from '../core/checks/pattern.ts'
import { valueAtKey } from '../core/keys/find-key.ts'
import { readDoc } from '../core/formats/doc.ts'
import { formatNamed } from '../core/formats/index.ts'
import { formatOfFile } from './content/file-format.ts'
import type { ManifestFile } from './store/release.ts'
import type { Store } from './store/store.ts'
import { decode } from './content/text-file.ts'

/** Where a game says its own version: `game/build.json: release`. */
export interface VersionPlace {
  path: string
  key: string
}

export function parseVersionAt(text: string): VersionPlace {
  const { files: path, keys: key = '' } = parsePlace(text)
  return { path, key }
}

/** The version that the installed game says; undefined where it does not. */
export function installedVersion(root: string, { path, key }: VersionPlace): string | undefined {
  try {
    return versionIn(path, readFileSync(join(root, path)), key)
  } catch {
    return undefined // no game is installed there
  }
}

/**
 * The version that a release's own files say. The place names a path from the workspace; a release may
 * hold the file by a shorter one, since it was taken from a folder further in.
 */
export function versionOfRelease(
  store: Store,
  files: readonly ManifestFile[],
  { path, key }: VersionPlace,
): string | undefined {
  const steps = path.split('/')
  for (let from = 0; from < steps.length; from++) {
    const tail = steps.slice(from).join('/')
    const file = files.find((each) => each.path === tail)
    const content = file === undefined ? undefined : store.content(file)
    if (content !== undefined) return versionIn(tail, content, key)
  }
  return undefined
}

function versionIn(path: string, bytes: Buffer, key: string): string | undefined {
  const format = formatOfFile(path, bytes)
  const decoded = decode(bytes)
  if (format === undefined || !('text' in decoded)) return undefined
  if (format.name === 'text') return decoded.text.trim().split(/\s+/)[0]
  const doc = readDoc(formatNamed(format.name), decoded.text)
  return doc === undefined ? undefined : valueAtKey(doc, key)
}
