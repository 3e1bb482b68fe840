import { readFileSync } from 'node:fs'
import { nameFacts } from '../../core/grouping/name-facts.ts'
import { familyOf } from '../../core/grouping/placed.ts'
import { contentOfFile } from '../content/file-content.ts'
import type { FileTree } from '../tree.ts'

/** Fewer files that are alike by their paths do not hold entries of one sort. */
const LEAST_SIBLINGS = 3

/**
 * Whether files that are alike by their paths have a name: where each holds one entry, a name is new only
 * if none of them had it. They are read when that is asked, and each place is looked for once.
 */
export class SiblingNames {
  private readonly families = new Map<string, string[]>()
  private readonly known = new Map<string, boolean>()

  constructor(private readonly tree: FileTree) {
    for (const path of tree.keys()) {
      const family = familyOf(path)
      const paths = this.families.get(family)
      if (paths === undefined) this.families.set(family, [path])
      else paths.push(path)
    }
  }

  /** Whether anything stands at a place in a file like that of the path. */
  isKnown(path: string, place: string): boolean {
    const family = familyOf(path)
    const paths = this.families.get(family) ?? []
    if (paths.length < LEAST_SIBLINGS) return false
    const asked = `${family} ${place}`
    const found = this.known.get(asked) ?? paths.some((each) => this.has(each, place))
    this.known.set(asked, found)
    return found
  }

  private has(path: string, place: string): boolean {
    const entry = this.tree.get(path)
    if (entry === undefined) return false
    const { doc } = contentOfFile(path, readFileSync(entry.location))
    return doc !== undefined && nameFacts(doc, doc).isKnown(place)
  }
}
