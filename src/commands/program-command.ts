import { once } from 'node:events'
import { Command } from '@oclif/core/command'
import { CLIError } from '@oclif/core/errors'
import * as Flags from '@oclif/core/flags'
import type { LocatedProblem } from '../core/report/report.ts'
import { failureJson } from '../show/carry-json.ts'
import { problemOf } from '../show/command-problem.ts'
import type { CommandProblem } from '../show/document-parts.ts'
import { jsonChunks } from '../show/json-chunks.ts'
import type { Paint } from '../show/paint.ts'
import { colourPaint } from '../show/paint.ts'
import { showNext } from '../show/next.ts'
import { showProblem } from '../show/problem-view.ts'
import { printable } from '../show/text.ts'
import { asFailure, EXIT, Failure } from '../workspace/failure.ts'
import type { Workspace } from '../workspace/workspace.ts'
import { quoted } from './call.ts'
import { wrongCall } from './call-words.ts'
import { colourLevel, outputWidth, Progress } from './terminal.ts'

/** So many characters are printed at once. */
const AT_ONCE = 1 << 16

/** What all commands share: `--json`, the terminal, and how a failure is told. */
export abstract class ProgramCommand extends Command {
  static override baseFlags = {
    json: Flags.boolean({
      description: 'Print one JSON document on stdout, and all else on stderr',
    }),
  }

  protected readonly progress = new Progress(process.stderr)

  /** Aborted when the user interrupts the run. */
  protected interruption(): AbortSignal {
    const interrupted = new AbortController()
    process.once('SIGINT', () => {
      interrupted.abort()
    })
    return interrupted.signal
  }

  protected get width(): number {
    return outputWidth(process.stdout)
  }

  protected get paint(): Paint {
    return colourPaint(colourLevel(process.stdout))
  }

  /** The result of a command: text for people, or one JSON document. */
  protected print(text: string): void {
    process.stdout.write(printable(text))
  }

  /** What is to be said first, whatever the command is about: deliveries that did not come to their end. */
  private readonly standing: CommandProblem[] = []

  protected async tellUnfinished({ layout }: Workspace): Promise<void> {
    const { unfinished, unfinishedVariants } = await import('../workspace/deliver/journal.ts')
    for (const variant of unfinishedVariants(layout)) {
      const { code, message, details } = unfinished(variant)
      const problem = problemOf('error', code, message, null, details.hint ?? null)
      this.standing.push(problem)
      const paint = colourPaint(colourLevel(process.stderr))
      const width = outputWidth(process.stderr)
      const said = { ...asProblem(unfinished(variant)), severity: 'error' as const }
      const lines = [...showProblem(said, paint, width), ...showNext(details.next ?? [], width)]
      process.stderr.write(printable(`${lines.join('\n')}\n\n`))
    }
  }

  /** Prints one JSON document piece by piece, as fast as it is taken. */
  protected async printJson(document: { problems: readonly CommandProblem[] }): Promise<void> {
    let text = ''
    const whole = { ...document, problems: [...this.standing, ...document.problems] }
    for (const chunk of jsonChunks(whole)) {
      text += chunk
      if (text.length < AT_ONCE) continue
      if (!process.stdout.write(text)) await once(process.stdout, 'drain')
      text = ''
    }
    this.print(`${text}\n`)
  }

  /** Whether somebody can be asked: there is a terminal, and not a document that is wanted. */
  protected canAsk(isJson: boolean): boolean {
    return !isJson && process.stdin.isTTY && process.stderr.isTTY
  }

  /** Asks for a yes; no is what an empty answer means. */
  protected async answered(message: string): Promise<boolean> {
    const { confirm } = await import('@inquirer/prompts')
    return confirm({ message, default: false }, { output: process.stderr })
  }

  /** Runs what may be refused; where there is a terminal and a yes would do, it is asked for. */
  protected async asking(
    flags: { yes?: boolean; json?: boolean },
    run: () => Promise<void>,
  ): Promise<void> {
    try {
      await run()
    } catch (error) {
      const failure = asFailure(error)
      const isAsked = failure.details.next?.includes('--yes') === true
      if (!isAsked || !this.canAsk(flags.json === true)) throw error
      this.progress.end()
      if (!(await this.answered(`${failure.message}. Is that as it should be?`))) throw error
      flags.yes = true
      await run()
    }
  }

  /** Calls that lead on from a refusal: the same with an option more, or another one. */
  protected waysOn({ details: { next = [] } }: Failure): string[] {
    const words = ['anagnosis', ...(this.id ?? '').split(':'), ...this.argv.map(quoted)]
    return next.map((way) => (way.startsWith('--') ? `${words.join(' ')} ${way}` : way))
  }

  /** A call that cannot be read is told in the program's own words. */
  private failureOf(error: Error): Failure {
    if (!(error instanceof CLIError)) return asFailure(error)
    const options = { ...this.ctor.baseFlags, ...this.ctor.flags }
    const command = (this.id ?? '').replaceAll(':', ' ')
    const { message, hint } = wrongCall(error.message, { command, argv: this.argv, options })
    return new Failure('call/wrong', message, { exit: EXIT.wrongCall, hint })
  }

  /** Tells what went wrong, in the form that was asked for, and sets the exit code. */
  override async catch(error: Error): Promise<void> {
    this.progress.end()
    const failure = this.failureOf(error)
    process.exitCode = failure.exit
    const problem = asProblem(failure)
    const next = this.waysOn(failure)
    if (this.argv.includes('--json')) {
      this.print(
        `${JSON.stringify(failureJson((this.id ?? '').replaceAll(':', ' '), problem, next), null, 2)}\n`,
      )
      return
    }
    const paint = colourPaint(colourLevel(process.stderr))
    const width = outputWidth(process.stderr)
    const lines = [
      ...showProblem({ ...problem, severity: 'error' }, paint, width),
      ...showNext(next, width),
    ]
    process.stderr.write(printable(`${lines.join('\n')}\n`))
  }
}

function asProblem({ code, message, details }: Failure): Omit<LocatedProblem, 'severity'> {
  const { line, column, text, hint } = details
  const located = line !== undefined && details.path !== undefined
  return {
    code,
    message,
    path: located ? (details.path ?? '') : '',
    line: line ?? null,
    column: column ?? null,
    input: null,
    ...(text === undefined ? {} : { text }),
    ...(hint === undefined ? {} : { hint }),
  }
}
