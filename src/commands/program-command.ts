import { Command, Errors, Flags } from '@oclif/core'
import type { LocatedProblem } from '../core/carry/report.ts'
import { failureJson } from '../show/carry-json.ts'
import type { Paint } from '../show/paint.ts'
import { colourPaint } from '../show/paint.ts'
import { showProblem } from '../show/problem-view.ts'
import { EXIT, Failure } from '../workspace/failure.ts'
import { colourLevel, outputWidth } from './terminal.ts'

/** What all commands share: `--json`, the terminal, and how a failure is told. */
export abstract class ProgramCommand extends Command {
  static override baseFlags = {
    json: Flags.boolean({
      description: 'Print one JSON document on stdout, and all else on stderr',
    }),
  }

  protected get width(): number {
    return outputWidth(process.stdout)
  }

  protected get paint(): Paint {
    return colourPaint(colourLevel(process.stdout))
  }

  /** The result of a command: text for people, or one JSON document. */
  protected print(text: string): void {
    process.stdout.write(text)
  }

  /** Tells what went wrong, in the form that was asked for, and sets the exit code. */
  override async catch(error: Error): Promise<void> {
    const failure = asFailure(error)
    process.exitCode = failure.exit
    const problem = asProblem(failure)
    if (this.argv.includes('--json')) {
      this.print(`${JSON.stringify(failureJson(this.id ?? '', problem), null, 2)}\n`)
      return
    }
    const paint = colourPaint(colourLevel(process.stderr))
    const lines = showProblem({ ...problem, severity: 'error' }, paint, outputWidth(process.stderr))
    process.stderr.write(`${lines.join('\n')}\n`)
  }
}

function asFailure(error: Error): Failure {
  if (error instanceof Failure) return error
  if (error.name === 'AbortError') {
    return new Failure('run/interrupted', 'interrupted; nothing was written', {
      exit: EXIT.interrupted,
    })
  }
  if (error instanceof Errors.CLIError) {
    const hint = 'run the command with --help to see an example'
    return new Failure('call/wrong', callMessage(error.message), {
      exit: EXIT.wrongCall,
      hint,
    })
  }
  return new Failure('run/unexpected', `something unforeseen happened: ${error.message}`, {
    exit: EXIT.unexpected,
    hint: 'nothing was left half-written; please report this with the files that bring it about',
    cause: error,
  })
}

/** What is wrong with a call, in one sentence. */
function callMessage(message: string): string {
  const missing = [...message.matchAll(/Missing required flag (\S+)/g)].map(
    ([, flag]) => `--${flag ?? ''}`,
  )
  if (missing.length > 0) return `the call lacks ${missing.join(', ')}`
  return message
    .replace(/\s*See more help with --help\s*/g, '')
    .replace(/\s*\n\s*/g, ' ')
    .trim()
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
