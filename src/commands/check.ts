import * as Args from '@oclif/core/args'
import * as Flags from '@oclif/core/flags'
import { resolve } from 'node:path'
import { pathToFileURL } from 'node:url'
import type { CheckedFolder } from '../core/facts/checked.ts'
import { WELL_FORMED } from '../core/report/finding.ts'
import { checkJson } from '../show/check-json.ts'
import { showChecked } from '../show/check-view.ts'
import { sarifLog } from '../show/sarif.ts'
import type { CheckTarget } from '../workspace/check/check-target.ts'
import { EXIT, Failure, systemFailure } from '../workspace/failure.ts'
import { findRoot } from '../workspace/find-root.ts'
import { DISK } from '../workspace/io/disk.ts'
import type { Workspace } from '../workspace/workspace.ts'
import { paragraph, quoted } from './call.ts'
import { variantOf } from './settle.ts'
import { WorkspaceCommand } from './workspace-command.ts'

export default class Check extends WorkspaceCommand {
  static override summary = 'Check that files are well formed, and what the config says must hold.'
  static override description =
    paragraph(`Reads every file of what is live, of a draft, or of any folder, and mends nothing. Tells each file
that is malformed, with its line, and what the checks of anagnosis.yaml find. Ends with 3 where a
file is malformed, else with 1 where something was found.`)

  static override examples = [
    '<%= config.bin %> check old-harbour --draft',
    '<%= config.bin %> check ./servers/old-harbour --sarif findings.sarif',
  ]

  static override args = {
    target: Args.string({ description: 'A variant, or a folder; the only variant by default' }),
  }

  static override flags = {
    draft: Flags.boolean({
      default: false,
      description: 'The open draft of the variant, and not what is live',
    }),
    sarif: Flags.string({
      helpValue: 'FILE',
      description: 'Write the findings as a SARIF log, too, for editors and build servers',
    }),
  }

  async run(): Promise<void> {
    const { args, flags } = await this.parse(Check)
    const { brokenInDraft, checkFolder } = await import('../workspace/check/check.ts')
    const workspace = await this.workspaceFor(args.target, flags.workspace)
    const target = await targetOf(workspace, args.target, flags.draft)
    const checked = await checkFolder(target, {
      config: workspace?.config ?? {},
      progress: this.progress.update,
      ...(workspace === undefined ? {} : { isState: workspace.isState(target.location) }),
    })
    if (workspace !== undefined && target.variant !== undefined && target.draft !== undefined) {
      const broken = await brokenInDraft(workspace, target.variant, target.draft)
      checked.findings.push(...broken.findings)
      checked.problems.push(...broken.problems)
    }
    this.progress.end()
    if (flags.sarif !== undefined) await writeSarif(flags.sarif, checked, this.config.version)
    process.exitCode = exitOf(checked)
    const next = nextCommands(checked)
    const name = checked.variant ?? args.target ?? ''
    const shownName = checked.draft === undefined ? name : `${name}, its draft ${checked.draft}`
    if (flags.json) await this.printJson(checkJson(checked, next))
    else this.print(showChecked(checked, shownName, next, this.paint, this.width))
  }

  /** A folder can be checked where there is no workspace; then only for being well formed. */
  private async workspaceFor(
    target: string | undefined,
    named: string | undefined,
  ): Promise<Workspace | undefined> {
    const isOutside = named === undefined && findRoot(process.cwd()) === undefined
    return target !== undefined && isOutside ? undefined : this.open(named)
  }
}

async function targetOf(
  workspace: Workspace | undefined,
  name: string | undefined,
  isDraft: boolean,
): Promise<CheckTarget> {
  const { draftTarget, folderTarget, liveTarget } =
    await import('../workspace/check/check-target.ts')
  const isVariant =
    name === undefined || workspace?.variants.some((each) => each.name === name) === true
  if (isVariant && workspace !== undefined) {
    const variant = variantOf(workspace, name)
    return isDraft ? draftTarget(workspace, variant) : liveTarget(workspace, variant)
  }
  if (isDraft)
    throw new Failure('variant/unknown', `--draft needs a variant, and ${name ?? 'none'} is none`, {
      exit: EXIT.wrongCall,
      hint: 'anagnosis overview names the variants',
    })
  return folderTarget(name ?? '')
}

async function writeSarif(file: string, checked: CheckedFolder, version: string): Promise<void> {
  const uri = pathToFileURL(`${resolve(checked.folder)}/`).href
  const text = `${JSON.stringify(sarifLog(checked, version, uri), null, 2)}\n`
  await DISK.writeWhole(resolve(file), text).catch((error: unknown) => {
    throw systemFailure(error, 'Writing', file)
  })
}

function exitOf({ findings, problems }: CheckedFolder): number {
  const isUnread =
    findings.some(({ check }) => check === WELL_FORMED) ||
    problems.some(({ severity }) => severity === 'error')
  if (isUnread) return EXIT.unread
  return findings.length > 0 ? EXIT.open : EXIT.done
}

function nextCommands({ variant, draft, findings }: CheckedFolder): string[] {
  if (variant === undefined || draft === undefined) return []
  if (findings.length === 0) return [`anagnosis deliver ${quoted(variant)}`]
  const first = findings.find(({ key, nearest }) => key !== '' && nearest !== null)
  const settle = `anagnosis settle ${quoted(variant)}`
  return [
    first === undefined
      ? `${settle} --list`
      : `${settle} --file ${quoted(first.path)} --key ${quoted(first.key)} --take ${quoted(`value:${first.nearest ?? ''}`)}`,
    `anagnosis check ${quoted(variant)} --draft`,
  ]
}
