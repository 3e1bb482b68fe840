import { pathPattern } from '../config/path-pattern.ts'
import type { WhatsNew } from '../../core/facts/whats-new.ts'
import { commentChanges } from '../../core/grouping/comment-changes.ts'
import type { FileChanges } from '../../core/grouping/group.ts'
import type { KeyChange } from '../../core/grouping/key-change.ts'
import { groupChanges } from '../../core/grouping/group.ts'
import { nameFacts } from '../../core/grouping/name-facts.ts'
import { NEW, OLD } from '../../core/document/sides.ts'
import { breathe } from '../breathe.ts'
import { mergedReport } from '../carry/merged-report.ts'
import type { Config } from '../config/config.ts'
import { ruleFor } from '../config/file-rule.ts'
import { SiblingNames } from './sibling-names.ts'
import type { FilePair } from '../carry/pair-files.ts'
import { pairFiles } from '../carry/pair-files.ts'
import type { FileTree, TreeEntry } from '../tree.ts'
import { readBytes } from '../tree.ts'

export interface CompareOptions {
  /** Identities and formats of files; its policies say nothing of what an update changed. */
  config?: Config | undefined
  /** Only files that match. */
  file?: string | undefined
  progress?: (done: number, total: number) => void
  signal?: AbortSignal
}

/** Compares two trees file by file and key by key, and groups what differs. */
export async function compareTrees(
  old: FileTree,
  fresh: FileTree,
  options: CompareOptions,
): Promise<WhatsNew> {
  const isMeant = options.file === undefined ? () => true : pathPattern(options.file)
  const only = (tree: FileTree): FileTree =>
    new Map([...tree].filter(([path, { kind }]) => kind === 'file' && isMeant(path)))
  const before = only(old)
  const pairs = pairFiles([before, only(fresh), before])
  const siblings = new SiblingNames(before)
  const all: FileChanges[] = []
  const result: WhatsNew = {
    groups: [],
    comments: [],
    formats: new Map(),
    files: { changed: 0, all: pairs.length },
    counts: { changed: 0, added: 0, removed: 0, moved: 0, renamed: 0 },
    problems: [],
  }
  for (const [done, pair] of pairs.entries()) {
    await breathe()
    options.signal?.throwIfAborted()
    const changes = await comparePair(pair, options.config ?? {}, siblings, result)
    if (changes !== undefined && changes.changes.length > 0) all.push(changes)
    options.progress?.(done + 1, pairs.length)
  }
  for (const { changes } of all) for (const { kind } of changes) result.counts[kind]++
  result.groups = groupChanges(all)
  return result
}

/** The changes of one file; its comments and problems go into `into`. */
async function comparePair(
  pair: FilePair,
  config: Config,
  siblings: SiblingNames,
  into: WhatsNew,
): Promise<FileChanges | undefined> {
  const { path } = pair
  const [old, fresh] = [bytesOf(pair.entries[OLD]), bytesOf(pair.entries[NEW])]
  const renamed: KeyChange[] =
    pair.renamed === undefined
      ? []
      : [{ kind: 'renamed', key: '', was: pair.renamed.was, old: pair.renamed.was, new: path }]
  if (old !== undefined && fresh !== undefined && old.equals(fresh)) {
    if (renamed.length > 0) into.files.changed++
    return { path, changes: renamed }
  }
  into.files.changed++
  const rule = ruleFor(config, path)
  const changes: FileChanges = { path, changes: renamed }
  const report = await mergedReport({
    path,
    bytes: [old, fresh, old],
    rule,
    inspect: ({ docs: [before, after] }) => {
      const facts = nameFacts(before, after)
      const isKnown = (place: string): boolean =>
        facts.isKnown(place) || siblings.isKnown(path, place)
      changes.names = { ...facts, isKnown }
      for (const change of commentChanges(before, after)) into.comments.push({ path, ...change })
    },
  })
  into.problems.push(...report.problems.filter(({ severity }) => severity === 'error'))
  if (report.outcome === 'unread') return undefined
  if (report.format !== 'text' && report.format !== 'other') into.formats.set(path, report.format)
  // old takes the place of mine: what differs is what vanilla did
  const rows = report.changes.map(({ kind, key, was, old: from, new: to }) => ({
    kind,
    key,
    was,
    old: from,
    new: to,
  }))
  return { ...changes, changes: [...renamed, ...rows] }
}

function bytesOf(entry: TreeEntry | undefined): Buffer | undefined {
  return entry === undefined ? undefined : readBytes(entry.location)
}
