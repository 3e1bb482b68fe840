import { Doc } from '../../core/formats/doc.ts'
import { formatNamed } from '../../core/formats/index.ts'
import type { Features } from '../../core/identity/likeness.ts'
import { featuresOf } from '../../core/identity/likeness.ts'
import { formatOf } from './file-format.ts'
import { AS_BYTES, decode } from './text-file.ts'

/** What a file holds, to compare: its values by key, its lines, or its bytes. */
export interface Content {
  sort: string
  size: number
  features: Features
  /** The document, where it could be read as one. */
  doc?: Doc
}

/** Reads what a file holds; one that is malformed goes by its lines. */
export function contentOfFile(path: string, bytes: Buffer): Content {
  const format = formatOf({
    path,
    bytes: [bytes, undefined, undefined],
    rule: undefined,
    format: undefined,
  })
  const decoded = format === undefined ? undefined : decode(bytes, AS_BYTES)
  if (format === undefined || decoded === undefined || !('text' in decoded)) {
    return { sort: 'bytes', size: bytes.length, features: new Map([[bytes.toString('latin1'), 1]]) }
  }
  if (format.name !== 'text') {
    const known = formatNamed(format.name)
    const reader = known.reader([decoded.text])
    const { tree, problems } = reader.read(decoded.text)
    if (problems.length === 0) {
      const doc = new Doc(known, tree, reader)
      return { sort: format.name, size: bytes.length, features: documentFeatures(doc), doc }
    }
  }
  const lines = new Map<string, number>()
  for (const line of decoded.text.split(/\r\n|\r|\n/)) lines.set(line, (lines.get(line) ?? 0) + 1)
  return { sort: 'text', size: bytes.length, features: lines }
}

function documentFeatures(doc: Doc): Features {
  const features = new Map<string, number>()
  for (const node of doc.children(0)) {
    for (const [feature, times] of featuresOf(doc, node))
      features.set(feature, (features.get(feature) ?? 0) + times)
  }
  return features
}
