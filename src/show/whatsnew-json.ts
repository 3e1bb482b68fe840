import type { Group, GroupPart } from '../core/grouping/group.ts'
import type { FileKeyChange } from '../core/grouping/key-change.ts'
import type { VariantTouch } from '../core/facts/whats-new.ts'
import { plainProblem } from './carry-json.ts'
import type { WhatsNewDocument } from './whatsnew-document.ts'
import type { WhatsNewView } from './whatsnew-view.ts'

type Row = Omit<WhatsNewDocument['groups'][number], 'path' | 'files' | 'parts'>

/** What an update changed as its JSON document. */
export function whatsNewJson({ from, to, news, touch, next }: WhatsNewView): WhatsNewDocument {
  return {
    command: 'whatsnew',
    schema: 1,
    from,
    to,
    files: news.files,
    counts: news.counts,
    groups: news.groups.map(groupJson),
    comments: news.comments.map(({ path, line, old, new: fresh }) => ({
      path,
      line,
      old,
      new: fresh,
    })),
    ...(touch === undefined ? {} : { for: touchJson(touch) }),
    problems: news.problems.map((each) => ({ ...plainProblem(each), path: each.path })),
    next: [...next],
  }
}

function groupJson(group: Group): WhatsNewDocument['groups'][number] {
  const { path, kind, pattern, count, parts, files } = group
  const keyOf = ({ path: file, key }: FileKeyChange): string =>
    path !== '' && files > 1 ? `${file}: ${key}` : key
  const [first] = parts
  if (first !== undefined && parts.length === 1) return { path, files, ...partJson(first, keyOf) }
  const keys = parts.flatMap(({ changes }) => changes.map(keyOf))
  const rows = parts.map((part) => partJson(part, keyOf))
  return { path, files, kind, pattern, count, old: null, new: null, law: null, keys, parts: rows }
}

function partJson(
  { kind, pattern, law, changes, now }: GroupPart,
  keyOf: (change: FileKeyChange) => string,
): Row {
  const shared = (side: 'old' | 'new'): string | null => {
    const [value = null] = changes.map((change) => change[side])
    return changes.every((change) => change[side] === value) ? value : null
  }
  return {
    kind,
    pattern,
    count: changes.length,
    old: shared('old'),
    new: shared('new'),
    law: law ?? null,
    keys: changes.map(keyOf),
    ...(now === undefined ? {} : { now }),
  }
}

function touchJson(touch: VariantTouch): NonNullable<WhatsNewDocument['for']> {
  const { variant, vanilla, counts, conflicts, near, wiped, unread } = touch
  const plain = ({ path, key, old, new: fresh, mine }: VariantTouch['near'][number]) =>
    ({ path, key, old, new: fresh, mine }) as const
  return {
    variant,
    vanilla,
    counts,
    conflicts: conflicts.map(({ path, key, old, new: fresh, mine, kind, id }) => ({
      path,
      key,
      old,
      new: fresh,
      mine,
      kind,
      id,
    })),
    near: near.map(plain),
    wiped: wiped.map(plain),
    unread,
  }
}
