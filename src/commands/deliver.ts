import * as Args from '@oclif/core/args'
import * as Flags from '@oclif/core/flags'
import type { Delivered } from '../core/facts/delivered.ts'
import { nearest } from '../core/keys/nearest.ts'
import { deliverEachJson, deliverJson } from '../show/deliver-json.ts'
import { showDelivered, shownPlan } from '../show/deliver-view.ts'
import { EXIT, Failure } from '../workspace/failure.ts'
import type { Variant, Workspace } from '../workspace/workspace.ts'
import { paragraph, quoted } from './call.ts'
import { variantOf } from './settle.ts'
import { WorkspaceCommand } from './workspace-command.ts'

export default class Deliver extends WorkspaceCommand {
  static override summary = 'Put the draft of a variant live, with a backup of what was live.'
  static override description =
    paragraph(`Shows what will be written, added and removed, and asks. Files that the draft says nothing of stay
as they are. Refuses where keys are open, or where a live file changed since the carry. A delivery
that was killed is ended by --finish or --undo.`)

  static override examples = [
    '<%= config.bin %> deliver old-harbour --dry-run',
    '<%= config.bin %> deliver old-harbour --yes',
  ]

  static override args = {
    variant: Args.string({ description: 'The variant; the only one by default' }),
  }

  static override flags = {
    each: Flags.boolean({ default: false, description: 'All variants whose drafts are ready' }),
    'dry-run': Flags.boolean({ default: false, description: 'Write nothing' }),
    'trial-too': Flags.boolean({
      default: false,
      description: 'Put a release that is in trial live, too',
    }),
    despite: Flags.string({
      multiple: true,
      helpValue: 'CHECK',
      description:
        'Pass over what a kind of check finds, such as in-range; can be said more than once',
    }),
    yes: Flags.boolean({ default: false, description: 'Answer yes to what would be asked' }),
    parcel: Flags.string({
      helpValue: 'DIR|FILE.zip',
      description: 'Write what is to be uploaded to a host into a folder or an archive',
    }),
    confirm: Flags.string({
      helpValue: 'FOLDER',
      description: 'A fresh download of the host: whether the parcel has arrived there',
      exclusive: ['parcel', 'finish', 'undo'],
    }),
    finish: Flags.boolean({
      description: 'Do the rest of a delivery that was killed',
      exclusive: ['undo'],
    }),
    undo: Flags.boolean({
      description: 'Put back what was live before a delivery that was killed',
    }),
  }

  async run(): Promise<void> {
    const { args, flags } = await this.parse(Deliver)
    await refuseUnknownChecks(flags.despite ?? [])
    const workspace = await this.open(flags.workspace)
    const how = flags.finish ? 'finish' : flags.undo ? 'undo' : undefined
    if (how !== undefined) {
      await this.end(workspace, variantOf(workspace, args.variant), how, flags.json)
      return
    }
    if (flags.confirm !== undefined) {
      await this.arrived(workspace, variantOf(workspace, args.variant), flags.confirm, flags)
      return
    }
    const variants = flags.each
      ? await readyVariants(workspace)
      : [variantOf(workspace, args.variant)]
    if (variants.length === 0)
      throw new Failure('draft/none', 'no variant has an open draft', {
        exit: EXIT.refused,
        hint: 'anagnosis carry --to VERSION makes drafts',
      })
    const all: Delivered[] = []
    for (const variant of variants) all.push(await this.one(workspace, variant, flags))
    process.exitCode = all.some(({ refusals }) => refusals.length > 0) ? EXIT.refused : EXIT.done
    if (!flags.json) return
    const documents = all.map((each) => deliverJson(each, nextCommands(each)))
    const [only] = documents
    await this.printJson(flags.each || only === undefined ? deliverEachJson(documents) : only)
  }

  private async one(
    workspace: Workspace,
    variant: Variant,
    flags: {
      'dry-run': boolean
      'trial-too': boolean
      despite?: string[] | undefined
      yes: boolean
      json: boolean
      parcel?: string | undefined
    },
  ): Promise<Delivered> {
    const { deliver } = await import('../workspace/deliver/deliver.ts')
    const delivered = await deliver(workspace, variant, {
      now: new Date(),
      dryRun: flags['dry-run'],
      trialToo: flags['trial-too'],
      despite: flags.despite ?? [],
      parcel: flags.parcel,
      confirm: (planned) => this.confirmed(planned, flags),
      progress: this.progress.update,
    })
    this.progress.end()
    if (!flags.json)
      this.print(showDelivered(delivered, nextCommands(delivered), this.paint, this.width))
    return delivered
  }

  /** Tells whether a parcel has arrived. */
  private async arrived(
    workspace: Workspace,
    variant: Variant,
    folder: string,
    flags: { 'trial-too': boolean; despite?: string[] | undefined; json: boolean },
  ): Promise<void> {
    const { confirmUpload } = await import('../workspace/deliver/deliver.ts')
    const call = {
      now: new Date(),
      trialToo: flags['trial-too'],
      despite: flags.despite ?? [],
      folder,
    }
    const delivered = await confirmUpload(workspace, variant, call)
    const isOpen = (delivered.findings ?? []).length > 0
    process.exitCode = delivered.refusals.length > 0 ? EXIT.refused : isOpen ? EXIT.open : EXIT.done
    const next = isOpen
      ? [`anagnosis deliver ${quoted(variant.name)} --confirm ${quoted(folder)}`]
      : nextCommands(delivered)
    if (flags.json) await this.printJson(deliverJson(delivered, next))
    else this.print(showDelivered(delivered, next, this.paint, this.width))
  }

  private async confirmed(
    planned: Delivered,
    { yes, json }: { yes: boolean; json: boolean },
  ): Promise<boolean> {
    if (yes) return true
    if (!this.canAsk(json))
      throw new Failure(
        'deliver/asks',
        `${planned.variant} is to be put live: that is asked first`,
        {
          exit: EXIT.refused,
          hint: '--dry-run shows what it does; --yes does it',
          next: ['--yes'],
        },
      )
    this.print(`${shownPlan(planned, this.paint, this.width).join('\n')}\n`)
    return this.answered('Put this live?')
  }

  private async end(
    workspace: Workspace,
    variant: Variant,
    how: 'finish' | 'undo',
    isJson: boolean,
  ): Promise<void> {
    const { deliveredFiles, endUnfinished } = await import('../workspace/deliver/deliver.ts')
    const { steps, vanilla, from, backup } = await endUnfinished(workspace, variant, how)
    const delivered: Delivered = {
      variant: variant.name,
      draft: from,
      dryRun: false,
      despite: [],
      backup,
      vanilla: how === 'finish' ? vanilla : { was: vanilla.now, now: vanilla.was },
      files: deliveredFiles(steps),
      same: 0,
      refusals: [],
      notLookedAt: 0,
      reminders: [],
      leftAlone: [],
    }
    const next = ['anagnosis overview']
    if (isJson) await this.printJson(deliverJson(delivered, next, how))
    else if (how === 'finish') this.print(showDelivered(delivered, next, this.paint, this.width))
    else this.print(`${variant.name} is as it was before, on vanilla ${vanilla.was}.\n`)
  }
}

/** @throws Failure with the nearest kind of check that there is */
async function refuseUnknownChecks(kinds: readonly string[]): Promise<void> {
  if (kinds.length === 0) return
  const { CHECKS } = await import('../core/checks/index.ts')
  const known = CHECKS.map(({ kind }): string => kind)
  const unknown = kinds.find((kind) => !known.includes(kind))
  if (unknown === undefined) return
  const near = nearest(unknown, known)
  throw new Failure('call/wrong', `there is no kind of check ${unknown}`, {
    exit: EXIT.wrongCall,
    hint: near === undefined ? `known are ${known.join(', ')}` : `did you mean ${near}?`,
  })
}

/** The variants with an open draft in which nothing is open. */
async function readyVariants(workspace: Workspace): Promise<Variant[]> {
  const { openDraft } = await import('../workspace/draft/draft.ts')
  const { openCount } = await import('../workspace/settle/state.ts')
  const ready: Variant[] = []
  for (const variant of workspace.variants) {
    const draft = await openDraft(workspace.layout, variant.name)
    if (draft !== undefined && openCount(draft.record) === 0) ready.push(variant)
  }
  return ready
}

function nextCommands(delivered: Delivered): string[] {
  const { variant, refusals, vanilla, backup, dryRun } = delivered
  const codes = new Set(refusals.map(({ code }) => code))
  const name = quoted(variant)
  if (codes.has('draft/incomplete'))
    return [`anagnosis carry ${name} --drop`, `anagnosis carry ${name} --to ${quoted(vanilla.now)}`]
  if (codes.has('deliver/open-questions') || codes.has('deliver/behind'))
    return [`anagnosis settle ${name}`]
  const ways = [
    ...(codes.has('deliver/check-fails') ? [`anagnosis check ${name} --draft`] : []),
    ...(codes.has('deliver/trial') ? [`anagnosis deliver ${name} --trial-too`] : []),
  ]
  if (ways.length > 0) return ways
  if (codes.size > 0) return [`anagnosis carry ${name} --to ${quoted(vanilla.now)}`]
  if (delivered.parcel !== undefined) return [`anagnosis deliver ${name} --confirm FRESH-DOWNLOAD`]
  if (dryRun) return [`anagnosis deliver ${name}`]
  return backup === null ? [] : ['anagnosis overview', `anagnosis restore ${backup}`]
}
