import { CLIError, ExitError } from '@oclif/core/errors'
import { run } from '@oclif/core/run'
import { failureJson } from './show/carry-json.ts'
import { EXIT } from './workspace/failure.ts'

/**
 * Runs the program with its arguments. Commands tell their own failures; what comes up before a
 * command is known (its name is mistyped) is told here.
 */
export async function main(argv: string[], root: string): Promise<void> {
  // who reads the output has read enough: what was to be done is done
  process.stdout.on('error', (error: NodeJS.ErrnoException) => {
    if (error.code === 'EPIPE') process.exit()
    throw error
  })
  try {
    await run(argv.length === 0 ? ['--help'] : argv, { root })
  } catch (error) {
    const exit = error instanceof ExitError ? error.oclif.exit : undefined
    if (exit === 0) return
    process.exitCode = error instanceof CLIError ? EXIT.wrongCall : EXIT.unexpected
    const message = (error instanceof Error ? error.message : String(error)).replace(
      /\s*\n\s*/g,
      ' ',
    )
    if (argv.includes('--json')) {
      const problem = {
        code: 'call/wrong',
        message,
        path: '',
        line: null,
        column: null,
        input: null,
      }
      process.stdout.write(`${JSON.stringify(failureJson(argv[0] ?? '', problem), null, 2)}\n`)
    } else process.stderr.write(`${message}\nanagnosis --help lists the commands\n`)
  }
}

export { useScreen } from './commands/screen.ts'
export { COMMANDS } from './commands/index.ts'
