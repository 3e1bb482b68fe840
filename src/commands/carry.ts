import { extname, join } from 'node:path'
import * as Flags from '@oclif/core/flags'
import type { CarryReport } from '../core/report/report.ts'
import { totalCounts } from '../core/report/report.ts'
import { FORMAT_NAMES } from '../core/formats/index.ts'
import { carryJson } from '../show/carry-json.ts'
import { showCarry } from '../show/carry-view.ts'
import { hasKey, nearestKey, showExplanation } from '../show/explain-view.ts'
import { carryPaths } from '../workspace/carry/carry-paths.ts'
import type { Config } from '../workspace/config/config.ts'
import { EXIT, Failure } from '../workspace/failure.ts'
import { exitOf } from '../workspace/carry/exit-of.ts'
import type { CarryPaths } from '../workspace/carry/input-paths.ts'
import { paragraph, quoted } from './call.ts'
import { ProgramCommand } from './program-command.ts'

export default class Carry extends ProgramCommand {
  static override summary =
    'Bring your customised files over to a new vanilla: the three-way merge.'
  static override description =
    paragraph(`Merges three files or three folders by key: the vanilla that yours were made from, the vanilla
to move to, and yours. Where both sides changed a key differently, yours stands in the result
and the key is listed. Nothing but --out is written.`)

  static override examples = [
    {
      description: 'On the demo data (anagnosis demo saltlantern writes it):',
      command:
        '<%= config.bin %> carry --old saltlantern/vanilla-4.1 --new saltlantern/vanilla-4.2 --mine saltlantern/old-harbour --out carried',
    },
  ]

  static override flags = {
    old: Flags.string({
      required: true,
      helpValue: 'PATH',
      description:
        'The vanilla file or folder that yours was made from; none where you have it no more',
    }),
    new: Flags.string({
      required: true,
      helpValue: 'PATH',
      description: 'The vanilla file or folder to move to',
    }),
    mine: Flags.string({
      required: true,
      helpValue: 'PATH',
      description: 'Your customised file or folder',
    }),
    out: Flags.string({
      helpValue: 'PATH',
      description: 'Where the result goes; it must not exist. Needed but for --dry-run',
    }),
    config: Flags.string({
      helpValue: 'FILE',
      description: 'An anagnosis.yaml with policies and identities for files',
    }),
    format: Flags.string({
      options: [...FORMAT_NAMES],
      description: 'The format of single files, where the extension does not tell',
    }),
    explain: Flags.string({
      helpValue: 'KEY',
      description:
        'Tell of one key why the result is what it is; with its file before it, as in a.xml:KEY, or without',
    }),
    replace: Flags.boolean({ description: 'Replace what is at --out' }),
    'dry-run': Flags.boolean({
      default: false,
      description: 'Write nothing, and tell what a carry would come to',
    }),
  }

  async run(): Promise<void> {
    const { flags } = await this.parse(Carry)
    const { old, mine, format } = flags
    const dryRun = flags['dry-run']
    const paths = { old, new: flags.new, mine, out: outPath(flags.out, mine, dryRun) }
    const signal = this.interruption()
    const config = flags.config === undefined ? {} : await readConfigFile(flags.config)
    this.progress.doing(`Carrying ${mine}`)
    const { report } = await carryPaths({
      paths,
      config,
      ...(format === undefined ? {} : { format: format as (typeof FORMAT_NAMES)[number] }), // one of the options
      replace: flags.replace,
      dryRun,
      explain: flags.explain,
      beforeWritten: (done) => {
        refuseUnknownKey(done, flags.explain)
      },
      progress: this.progress.update,
      signal,
      crew: join(this.config.root, 'bin', 'crew-member.js'),
    })
    this.progress.end()
    process.exitCode = exitOf(report)
    const next = nextCommands(report, paths, flags)
    if (flags.json) {
      const inputs = { old, new: flags.new, mine }
      const call = { dryRun, inputs, out: dryRun ? null : paths.out, next }
      await this.printJson(carryJson(report, call, flags.explain))
    } else if (flags.explain !== undefined)
      this.print(showExplanation(report, flags.explain, this.paint, this.width))
    else this.print(showCarry({ report, paths, next, dryRun }, this.paint, this.width))
  }
}

/** @throws Failure where a key is to be explained that no file has */
function refuseUnknownKey(report: CarryReport, asked: string | undefined): void {
  if (asked === undefined || hasKey(report, asked)) return
  const near = nearestKey(report)
  throw new Failure('call/no-such-key', `no file has the key ${asked}`, {
    exit: EXIT.wrongCall,
    hint: near === undefined ? '--json lists all keys that differ' : `did you mean ${near}?`,
  })
}

/** A forecast writes nothing, and names single files as mine does. */
function outPath(out: string | undefined, mine: string, dryRun: boolean): string {
  if (out !== undefined || dryRun) return out ?? mine
  throw new Failure('call/wrong', 'the call lacks --out', {
    exit: EXIT.wrongCall,
    hint: 'say where the result goes, or --dry-run for a forecast',
  })
}

/** The config is read with packages that no other call needs. */
async function readConfigFile(path: string): Promise<Config> {
  const { readConfig } = await import('../workspace/config/config.ts')
  const config = await readConfig(path)
  refuseSparse(config, path)
  return config
}

/** A carry would bring every file of new into a folder that is to hold a few. */
function refuseSparse({ variants = {} }: Config, path: string): void {
  const sparse = Object.entries(variants).find(([, variant]) => variant.sparse === true)
  if (sparse === undefined) return
  throw new Failure(
    'config/not-built',
    `${path} says sparse: true of ${sparse[0]}, which carry cannot do yet`,
    {
      exit: EXIT.wrongCall,
      hint: 'name a --config without it; then the result has all files of new, too',
    },
  )
}

/** What of a call a later one needs to mean the same. */
interface Options {
  config?: string | undefined
  format?: string | undefined
  'dry-run': boolean
}

function nextCommands(report: CarryReport, paths: CarryPaths, options: Options): string[] {
  const { config, format } = options
  const call = [
    `anagnosis carry --old ${quoted(paths.old)} --new ${quoted(paths.new)} --mine ${quoted(paths.mine)}`,
    ...(config === undefined ? [] : [`--config ${quoted(config)}`]),
    ...(format === undefined ? [] : [`--format ${format}`]),
  ].join(' ')
  if (options['dry-run']) return [`${call} --out carried`]
  // a result may have been mended by hand: no call that is proposed writes over one
  const again = `${call} --out ${quoted(anotherOut(paths.out))}`
  const { unread } = totalCounts(report.files)
  return unread > 0 ? [again, `${call} --dry-run --json`] : [`${call} --dry-run --json`]
}

/** The name of a second result beside the first. */
function anotherOut(out: string): string {
  const extension = extname(out)
  return `${out.slice(0, out.length - extension.length)}-2${extension}`
}
