import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import type { LocatedProblem } from '../../core/report/report.ts'
import { fileProblem } from '../../core/report/report.ts'
import type { StoredValues } from '../../core/report/remembered.ts'
import { storedValues } from '../../core/report/remembered.ts'
import { sourcesAt } from '../../core/carry/sources-at.ts'
import type { Triple } from '../../core/document/sides.ts'
import { MINE } from '../../core/document/sides.ts'
import { mergedReport } from '../carry/merged-report.ts'
import { wholeValues } from '../carry/whole-decision.ts'
import { ruleFor } from '../config/file-rule.ts'
import { EXIT, Failure } from '../failure.ts'
import type { FileTree } from '../tree.ts'
import { readBytes, readTree } from '../tree.ts'
import { shortList } from '../../core/document/short-list.ts'
import type { Variant, Workspace } from '../workspace.ts'
import type { Decided, Decisions } from './decisions.ts'
import type { Draft, DraftFile } from './draft.ts'
import { draftTrees, recarry } from './draft-trees.ts'
import { hashOf } from './hash.ts'
import { inputBytes, valuesAtKey } from './key-values.ts'

/** What somebody edited in the files of a draft. */
export interface HandEdits {
  /** The edits as decisions. */
  decided: Decided[]
  /** Files that were edited. */
  paths: string[]
  /** Files whose edits cannot be taken over, and why. */
  problems: LocatedProblem[]
}

/** More edits of single values than this are taken over as the whole file. */
const MOST_KEYS = 40

/**
 * Finds what was edited by hand in a draft, as decisions: at its key where a value was changed and nothing else,
 * else for the whole file.
 *
 * @throws Failure where files of the draft are gone
 */
export async function handEditsOf(
  workspace: Workspace,
  variant: Variant,
  draft: Draft,
  decisions: Decisions,
): Promise<HandEdits> {
  refuseIncomplete(variant, draft)
  const edited = draft.record.files.filter((file) => isEdited(draft, file))
  const found: HandEdits = { decided: [], paths: [], problems: strangeFiles(draft).map(strange) }
  if (edited.length === 0) return found
  const trees = await draftTrees(workspace, variant, draft.record)
  for (const file of edited) {
    found.paths.push(file.path)
    const hand = new HandEdited(workspace, variant, draft, file, trees)
    const made = await hand.decisions(decisions)
    if (Array.isArray(made)) found.decided.push(...made)
    else found.problems.push(made)
  }
  return found
}

/** Files that somebody put into a draft: no carry made them. */
export function strangeFiles({ location, record }: Draft): string[] {
  const known = new Set(record.files.map(({ path }) => path))
  return [...readTree(location)]
    .filter(([path, { kind }]) => kind !== 'empty-folder' && !known.has(path))
    .map(([path]) => path)
}

function strange(path: string): LocatedProblem {
  return fileProblem(path, {
    severity: 'warning',
    code: 'draft/strange-file',
    message: 'was put into the draft by hand, and is not put live from there',
    hint: 'put the file into the live folder, and take it out of the draft',
  })
}

function refuseIncomplete({ name }: Variant, { location, record }: Draft): void {
  const gone = record.files
    .filter(({ written, path }) => written !== null && !existsSync(join(location, path)))
    .map(({ path }) => path)
  if (gone.length === 0) return
  throw new Failure('draft/incomplete', `the draft of ${name} lacks ${shortList(gone)}`, {
    exit: EXIT.refused,
    hint: 'drop the draft and carry once more: what was decided holds',
    next: [`anagnosis carry ${name} --drop`, `anagnosis carry ${name} --to ${record.to}`],
  })
}

function isEdited({ location }: Draft, { path, written }: DraftFile): boolean {
  return written !== null && hashOf(readBytes(join(location, path))) !== written
}

class HandEdited {
  private readonly edited: Buffer
  private readonly inputs: Triple<Buffer | undefined>

  constructor(
    private readonly workspace: Workspace,
    private readonly variant: Variant,
    private readonly draft: Draft,
    private readonly file: DraftFile,
    private readonly trees: Triple<FileTree>,
  ) {
    this.edited = readBytes(join(draft.location, file.path))
    this.inputs = inputBytes(trees, file.path, file.was)
  }

  /** The edits as decisions, or why they cannot be taken over. */
  async decisions(before: Decisions): Promise<Decided[] | LocatedProblem> {
    const { path } = this.file
    // a run that was killed may have written the file, and not yet what is known of it
    if (await this.makes(before)) return []
    const written = this.written()
    const keyed = written === undefined ? undefined : await this.byKey(written)
    if (keyed === 'malformed')
      return fileProblem(path, {
        severity: 'error',
        code: 'draft/malformed',
        message: 'was edited by hand in the draft, and cannot be read as its format any more',
        hint: 'mend the file in the draft; until then it is left alone',
      })
    if (keyed !== undefined && (await this.makes(before.with(keyed)))) return keyed
    const text = this.edited.toString('utf8')
    if (Buffer.from(text, 'utf8').equals(this.edited))
      return [this.decided('', this.wholeValues(), 'source', text)]
    return fileProblem(path, {
      severity: 'error',
      code: 'draft/not-text',
      message: 'was edited by hand in the draft, and is no UTF-8 text: it cannot be remembered',
      hint: 'copy the file to a place of your own before you carry again',
    })
  }

  /** The file as the carry wrote it. */
  private written(): Buffer | undefined {
    const { path, written } = this.file
    const { layout } = this.workspace
    if (written === null) return undefined
    const places = [join(layout.draftWritten(this.draft.name), path), layout.object(written)]
    for (const place of places) {
      const bytes = existsSync(place) ? readFileSync(place) : undefined
      if (bytes !== undefined && hashOf(bytes) === written) return bytes
    }
    return this.inputs.find((each) => each !== undefined && hashOf(each) === written)
  }

  /** The values that were changed, as decisions; undefined where something else was. */
  private async byKey(written: Buffer): Promise<Decided[] | 'malformed' | undefined> {
    const { path } = this.file
    let sources: (keys: ReadonlySet<string>) => Map<string, string> = () => new Map()
    const report = await mergedReport({
      path,
      bytes: [written, written, this.edited],
      rule: ruleFor(this.workspace.config, path),
      inspect: (read) => {
        sources = (keys) => sourcesAt(read, keys)
      },
    })
    if (report.outcome === 'unread') return 'malformed'
    const rows = report.changes
    const isPlain = rows.every(
      ({ kind, key, old, mine }) =>
        kind === 'changed' && old !== null && mine !== null && !/\[[0-9]+\]|~[0-9]/.test(key),
    )
    if (!isPlain || rows.length === 0 || rows.length > MOST_KEYS) return undefined
    const texts = sources(new Set(rows.map(({ key }) => key)))
    const decided: Decided[] = []
    for (const { key } of rows) {
      const source = texts.get(key)
      const known = await this.valuesAt(key)
      if (source === undefined || known === undefined) return undefined
      decided.push({ ...this.decided(key, known.values, 'source', source), ...known.name })
    }
    return decided
  }

  /** What stands at a key in the inputs, and the name of the conflict that it is. */
  private async valuesAt(
    key: string,
  ): Promise<{ values: StoredValues; name: { id?: string } } | undefined> {
    const { path, conflicts, closed } = this.file
    const row = [...conflicts, ...closed].find((each) => each.key === key)
    if (row?.id !== undefined) return { values: storedValues(row), name: { id: row.id } }
    const values = await valuesAtKey(this.workspace, path, this.inputs, key)
    return values && { values, name: {} }
  }

  /** The contents that the draft was made from: what is live may be another file by now. */
  private wholeValues(): StoredValues {
    const { live, mine } = this.file
    const values = wholeValues(this.inputs)
    return mine === 'live' && live !== null ? { ...values, mine: `sha256:${live}` } : values
  }

  /** Whether the file comes out as it was edited, byte for byte, once these decisions are applied. */
  private async makes(decisions: Decisions): Promise<boolean> {
    const { path } = this.file
    if (this.isLiveChanged) return false
    const { output } = await recarry(
      this.workspace,
      this.variant,
      { record: this.draft.record, trees: this.trees },
      new Set([path]),
      decisions.byPath,
    )
    const made = output.files.get(path)
    return made !== undefined && this.edited.equals(made)
  }

  /** Whether what is live is no longer what the draft was made from: then it cannot be made again. */
  private get isLiveChanged(): boolean {
    const { live, mine } = this.file
    const now = this.inputs[MINE]
    return mine === 'live' && (now === undefined ? null : hashOf(now)) !== live
  }

  private decided(
    key: string,
    values: StoredValues,
    take: Decided['take'],
    value: string,
  ): Decided {
    const { from, to } = this.draft.record
    return { path: this.file.path, key, ...values, take, value, from, to, by: 'hand' }
  }
}
