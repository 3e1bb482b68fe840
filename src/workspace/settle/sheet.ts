import type { OpenQuestion, Sheet } from '../../core/facts/settled.ts'
import { keysUnder } from '../../core/carry/sources-at.ts'
import { entryOf } from '../../core/keys/key.ts'
import type { FileReport } from '../../core/report/report.ts'
import { carryFile } from '../carry/carry-file.ts'
import { ruleFor } from '../config/file-rule.ts'
import { draftTrees } from '../draft/draft-trees.ts'
import { asMerged, inputBytes } from '../draft/key-values.ts'
import type { SettleSession } from './session.ts'

/** So many questions are shown with the entry that they are about. */
const MOST_SHEETS = 30

interface KnownFile {
  report: FileReport
  /** How many keys with one value an entry has. */
  count: (entry: string) => number
}

/** Adds to questions the entry of their first key: what differs in it, in all inputs and in the draft. */
export async function addSheets(
  session: SettleSession,
  questions: readonly OpenQuestion[],
): Promise<void> {
  const { workspace, variant, draft } = session
  const trees = await draftTrees(workspace, variant, draft.record)
  const known = new Map<string, KnownFile>()
  for (const question of questions.slice(0, MOST_SHEETS)) {
    const { path, key } = question.example
    const entry = entryOf(key)
    if (entry === undefined || key === '') continue
    const was = draft.record.files.find((each) => each.path === path)?.was
    const file = known.get(path) ?? (await readFile(session, path, inputBytes(trees, path, was)))
    known.set(path, file)
    question.sheet = sheetOf(file, entry)
  }
}

async function readFile(
  { workspace, decisions }: SettleSession,
  path: string,
  [old, fresh, mine]: ReturnType<typeof inputBytes>,
): Promise<KnownFile> {
  let count: (entry: string) => number = () => 0
  const { report } = await carryFile({
    onlyReport: true,
    path,
    bytes: [old, fresh, mine],
    rule: asMerged(ruleFor(workspace.config, path)),
    format: undefined,
    remembered: decisions.byPath.get(path) ?? [],
    inspect: (read) => {
      count = (entry) => keysUnder(read, entry)
    },
  })
  return { report, count }
}

function sheetOf({ report, count }: KnownFile, entry: string): Sheet {
  const isIn = ({ key }: { key: string }): boolean => key.startsWith(`${entry}/`)
  const rows = [...report.conflicts, ...report.changes].filter(isIn)
  return {
    entry,
    rows: rows.map(({ key, old, new: fresh, mine, result }) => ({
      key: key.slice(entry.length + 1),
      old,
      new: fresh,
      mine,
      result,
    })),
    same: Math.max(0, count(entry) - rows.length),
  }
}
