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
  /** The keys with one value that an entry has. */
  keysIn: (entry: string) => string[]
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
    question.sheet = sheetIn(file, entry)
  }
}

/** The entry that a key is a part of; undefined where the key is part of none. */
export async function sheetOf(
  session: SettleSession,
  path: string,
  key: string,
): Promise<Sheet | undefined> {
  const entry = entryOf(key)
  if (entry === undefined || key === '') return undefined
  return sheetIn(await readFile(session, path), entry)
}

async function readFile(session: SettleSession, path: string): Promise<KnownFile> {
  const { workspace, decisions } = session
  const [old, fresh, mine] = await session.inputs(path)
  let keysIn: KnownFile['keysIn'] = () => []
  const report = await mergedReport({
    path,
    bytes: [old, fresh, mine],
    rule: ruleFor(workspace.config, path),
    remembered: decisions.byPath.get(path) ?? [],
    inspect: (read) => {
      keysIn = (entry) => keysUnder(read, entry)
    },
  })
  return { report, keysIn }
}

function sheetIn({ report, keysIn }: KnownFile, entry: string): Sheet {
  const isIn = ({ key }: { key: string }): boolean => key.startsWith(`${entry}/`)
  const rows = [...report.conflicts, ...report.changes].filter(isIn)
  const differing = new Set(rows.map(({ key }) => key))
  return {
    entry,
    rows: rows.map(({ key, old, new: fresh, mine, result }) => ({
      key: key.slice(entry.length + 1),
      old,
      new: fresh,
      mine,
      result,
    })),
    same: keysIn(entry).filter((key) => !differing.has(key)).length,
  }
}
