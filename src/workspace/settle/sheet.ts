import type { OpenQuestion, Sheet } from '../../core/facts/settled.ts'
import { keysUnder } from '../../core/carry/sources-at.ts'
import { entryOf } from '../../core/keys/key.ts'
import type { FileReport } from '../../core/report/report.ts'
import { mergedReport } from '../carry/merged-report.ts'
import { ruleFor } from '../config/file-rule.ts'
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
  const known = new Map<string, KnownFile>()
  for (const question of questions.slice(0, MOST_SHEETS)) {
    const { path, key } = question.example
    const entry = entryOf(key)
    if (entry === undefined || key === '') continue
    const file = known.get(path) ?? (await readFile(session, path))
    known.set(path, file)
    question.sheet = sheetOf(file, entry)
  }
}

async function readFile(session: SettleSession, path: string): Promise<KnownFile> {
  const { workspace, decisions } = session
  const [old, fresh, mine] = await session.inputs(path)
  let count: (entry: string) => number = () => 0
  const report = await mergedReport({
    path,
    bytes: [old, fresh, mine],
    rule: ruleFor(workspace.config, path),
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
