import { runChecks } from '../../core/checks/index.ts'
import { identitiesByChecks } from '../../core/checks/unique.ts'
import type { Finding } from '../../core/report/finding.ts'
import { Scope } from '../../core/checks/scope.ts'
import type { CheckedFolder } from '../../core/facts/checked.ts'
import type { Doc } from '../../core/formats/doc.ts'
import type { LocatedProblem } from '../../core/report/report.ts'
import { fileProblem } from '../../core/report/report.ts'
import { breathe } from '../breathe.ts'
import type { Config } from '../config/config.ts'
import { isLeftOut, ruleFor } from '../config/file-rule.ts'
import { loadCodecs } from '../content/codec.ts'
import { Failure } from '../failure.ts'
import type { FileTree } from '../tree.ts'
import { readBytes, readTree } from '../tree.ts'
import type { Draft } from '../draft/draft.ts'
import { Decisions } from '../draft/decisions.ts'
import { draftTrees, recarry } from '../draft/draft-trees.ts'
import type { Variant, Workspace } from '../workspace.ts'
import { findBrokenTogether } from './broken-together.ts'
import type { CheckedFile } from './checked-file.ts'
import { readChecked } from './checked-file.ts'
import type { CheckTarget } from './check-target.ts'

export interface CheckOptions {
  config: Config
  /** Whether a path is no part of anybody's files. */
  isState?: (path: string) => boolean
  progress?: (done: number, total: number) => void
}

/** Reads every file of a folder, and makes the checks of the config. Nothing is written. */
export async function checkFolder(
  target: CheckTarget,
  { config, isState = () => false, progress }: CheckOptions,
): Promise<CheckedFolder> {
  const tree = readTree(target.location, (path) => isState(path) || isLeftOut(config, path))
  const files = [...tree].filter(([, { kind }]) => kind === 'file').map(([path]) => path)
  const findings: Finding[] = []
  const problems: LocatedProblem[] = []
  let done = 0
  for (const path of files) {
    await breathe()
    try {
      const read = await fileOf(path, target, config, tree)
      findings.push(...(read?.findings ?? []))
      problems.push(...(read?.warnings ?? []))
    } catch (error) {
      if (!(error instanceof Failure)) throw error
      const { code, message } = error
      problems.push(fileProblem(path, { severity: 'error', code, message }))
    }
    progress?.(++done, files.length)
  }
  const made = await configChecks(target, config, tree)
  return {
    variant: target.variant?.name,
    draft: target.draft?.name,
    folder: target.location,
    files: files.length,
    checks: config.checks?.length ?? 0,
    findings: [...findings, ...made.findings],
    problems: [...problems, ...made.problems],
  }
}

/** What two sides broke together in a draft, with what was decided and edited by hand since. */
export async function brokenInDraft(
  workspace: Workspace,
  variant: Variant,
  draft: Draft,
): Promise<Pick<CheckedFolder, 'findings' | 'problems'>> {
  const { record, location } = draft
  if (record.old === 'none') return { findings: [], problems: [] }
  try {
    const trees = await draftTrees(workspace, variant, record)
    const { byPath } = await Decisions.read(workspace.decisionsOf(variant.name))
    const paths = new Set(record.files.map(({ path }) => path))
    const { report } = await recarry(workspace, variant, { record, trees }, paths, byPath)
    const carried = { trees, config: workspace.config, location }
    return { findings: await findBrokenTogether(report, carried), problems: [] }
  } catch (error) {
    if (!(error instanceof Failure)) throw error
    const message = `what both sides broke together was not looked for: ${error.message}`
    const problem = fileProblem('', { severity: 'warning', code: 'check/not-made', message })
    return { findings: [], problems: [problem] }
  }
}

/** What the checks of the config find in a folder; of malformed files nothing is said. */
export async function configChecks(
  target: CheckTarget,
  config: Config,
  tree: FileTree = readTree(target.location, (path) => isLeftOut(config, path)),
): Promise<Pick<CheckedFolder, 'findings' | 'problems'>> {
  const { checks = [] } = config
  if (checks.length === 0) return { findings: [], problems: [] }
  const all = new Map([...(target.isSparse ? target.vanilla : []), ...tree])
  for (const [path, { kind }] of all)
    if (kind === 'empty-folder' || isLeftOut(config, path)) all.delete(path)
  for (const { kind, location } of all.values())
    if (kind === 'file') await loadCodecs([readBytes(location)])
  const docs = new Map<string, Doc | undefined>()
  const scope = new Scope({
    paths: [...all.keys()],
    doc(path) {
      if (!docs.has(path)) docs.set(path, documentOf(path, target, config, all))
      return docs.get(path)
    },
    vanilla(path) {
      const bytes = vanillaOf(path, target)
      return bytes === undefined
        ? undefined
        : readChecked(path, bytes, ruleFor(config, path), bytes).doc
    },
    identity: (path) =>
      new Map([
        ...identitiesByChecks(checks, path),
        ...Object.entries(ruleFor(config, path)?.identity ?? {}),
      ]),
    identityBefore: (path) => new Map(Object.entries(target.draft?.record.identities[path] ?? {})),
  })
  return runChecks(checks, scope, target.context)
}

async function fileOf(
  path: string,
  target: CheckTarget,
  config: Config,
  tree: FileTree,
): Promise<CheckedFile | undefined> {
  const entry = tree.get(path)
  if (entry?.kind !== 'file') return undefined
  const bytes = readBytes(entry.location)
  const vanilla = vanillaOf(path, target)
  await loadCodecs([vanilla, undefined, bytes])
  return readChecked(path, bytes, ruleFor(config, path), vanilla)
}

function documentOf(
  path: string,
  target: CheckTarget,
  config: Config,
  tree: FileTree,
): Doc | undefined {
  const entry = tree.get(path)
  if (entry?.kind !== 'file') return undefined
  const rule = ruleFor(config, path)
  return readChecked(path, readBytes(entry.location), rule, vanillaOf(path, target)).doc
}

function vanillaOf(path: string, { vanilla }: CheckTarget): Buffer | undefined {
  const entry = vanilla.get(path)
  return entry?.kind === 'file' ? readBytes(entry.location) : undefined
}
