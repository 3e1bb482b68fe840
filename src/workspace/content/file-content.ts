import type { Doc } from '../../core/formats/doc.ts'
import { readDoc } from '../../core/formats/doc.ts'
import type { FormatName } from '../../core/formats/index.ts'
import { formatNamed } from '../../core/formats/index.ts'
import { Counted, countedIn } from '../../core/likeness/counted.ts'
import { formatOfFile } from './file-format.ts'
import { AS_BYTES, decode } from './text-file.ts'

/** What a file holds, to compare: its values by key, its lines, or its bytes. */
export interface Content {
  sort: string
  size: number
  /** Worked out when they are asked for. */
  readonly features: Counted
  /** The document, where it could be read as one. */
  doc?: Doc
}

/**
 * Reads what a file holds; one that is malformed goes by its lines.
 *
 * @param named its format, where that is known
 */
export function contentOfFile(path: string, bytes: Buffer, named?: FormatName): Content {
  const size = bytes.length
  const format = named === undefined ? formatOfFile(path, bytes) : { name: named }
  const decoded = format === undefined ? undefined : decode(bytes, AS_BYTES)
  if (format === undefined || decoded === undefined || !('text' in decoded))
    return { sort: 'bytes', size, features: featuresIn([bytes.toString('latin1')]) }
  const { text } = decoded
  const doc = format.name === 'text' ? undefined : readDoc(formatNamed(format.name), text)
  if (doc === undefined)
    return { sort: 'text', size, features: featuresIn(text.split(/\r\n|\r|\n/)) }
  return {
    sort: format.name,
    size,
    doc,
    get features() {
      return documentFeatures(doc)
    },
  }
}

function featuresIn(parts: readonly string[]): Counted {
  const features = new Counted()
  for (const part of parts) features.add(part)
  return features
}

function documentFeatures(doc: Doc): Counted {
  const features = new Counted()
  for (const node of doc.children(0)) {
    for (const [feature, times] of countedIn(doc, node)) features.add(feature, times)
  }
  return features
}
