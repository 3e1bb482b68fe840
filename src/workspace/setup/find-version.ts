import { readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { Kind } from '../../core/document/kind.ts'
import type { Doc } from '../../core/formats/doc.ts'
import { readDoc } from '../../core/formats/doc.ts'
import { formatOfPath } from '../../core/formats/detect.ts'
import { formatNamed } from '../../core/formats/index.ts'
import { decode } from '../content/text-file.ts'
import { quoteName } from '../../core/keys/key.ts'

/** Files of these names may say the version of a game. */
const TELLS_VERSION = /(version|build|release|about|game|info)[^/]*$/i
const LARGEST = 64 * 1024

/** Where a folder's own files say that they are of a version; undefined where none does, or several do. */
export function findVersionAt(
  folder: string,
  paths: readonly string[],
  version: string,
  shown: string,
): string | undefined {
  const found = paths
    .filter((path) => TELLS_VERSION.test(path) && formatOfPath(path) !== undefined)
    .flatMap((path) =>
      keysOfValue(join(folder, ...path.split('/')), path, version).map((key) => ({ path, key })),
    )
  // what stands further out is about the game, what stands further in about a part of it
  const depth = (path: string): number => path.split('/').length
  const least = Math.min(...found.map(({ path }) => depth(path)))
  const [only, ...others] = found.filter(({ path }) => depth(path) === least)
  if (only === undefined || others.length > 0) return undefined
  return `${shown === '.' ? '' : `${shown}/`}${only.path}: ${only.key}`
}

/** The keys at the top of a file, and one level down, whose value is that version. */
function keysOfValue(location: string, path: string, version: string): string[] {
  if (statSync(location).size > LARGEST) return []
  const format = formatOfPath(path)
  const decoded = decode(readFileSync(location))
  if (format === undefined || !('text' in decoded)) return []
  const doc = readDoc(formatNamed(format), decoded.text)
  return doc === undefined ? [] : below(doc, doc.root(), '', version, 2)
}

function below(doc: Doc, node: number, before: string, version: string, depth: number): string[] {
  if (node < 0 || depth === 0) return []
  return doc.children(node).flatMap((child) => {
    const name = before + quoteName(doc.name(child))
    switch (doc.kind(child)) {
      case Kind.Attribute:
        return doc.value(child) === version ? [`${before}@${quoteName(doc.name(child))}`] : []
      case Kind.Property:
        return doc.value(child) === version ? [name] : []
      case Kind.Element:
        if (doc.isLeafElement(child) && doc.elementText(child) === version) return [name]
        return below(doc, child, `${name}/`, version, depth - 1)
      case Kind.Section:
        return below(doc, child, `${name}/`, version, depth - 1)
      case Kind.Member: {
        const value = doc.memberValue(child)
        if (doc.kind(value) === Kind.Scalar) return doc.tree.body(value) === version ? [name] : []
        return below(doc, value, `${name}/`, version, depth - 1)
      }
      default:
        return []
    }
  })
}
