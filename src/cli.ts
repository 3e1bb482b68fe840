import { CLIError, ExitError } from '@oclif/core/errors'
import { run } from '@oclif/core/run'
import type { WrongCall } from './commands/call-words.ts'
import { plainCall, unknownCommand } from './commands/call-words.ts'
import { COMMANDS } from './commands/index.ts'
import { failureJson } from './show/carry-json.ts'
import { printable } from './show/text.ts'
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
  const call = plainCall(argv)
  const wrong = unknownCommand(call, Object.keys(COMMANDS))
  if (wrong !== undefined) {
    process.exitCode = EXIT.wrongCall
    tell(wrong, argv)
    return
  }
  try {
    await run(call, { root })
  } catch (error) {
    const exit = error instanceof ExitError ? error.oclif.exit : undefined
    if (exit === 0) return
    process.exitCode = error instanceof CLIError ? EXIT.wrongCall : EXIT.unexpected
    const said = error instanceof Error ? error.message : String(error)
    const hint = 'anagnosis --help lists the commands'
    tell({ message: said.replace(/\s*\n\s*/g, ' '), hint }, argv)
  }
}

/** Tells what is wrong with a call before a command is known. */
function tell({ message, hint }: WrongCall, argv: readonly string[]): void {
  if (!argv.includes('--json')) {
    process.stderr.write(printable(`${message}\n  ${hint}\n`))
    return
  }
  const place = { path: '', line: null, column: null, input: null }
  const problem = { code: 'call/wrong', message, hint, ...place }
  process.stdout.write(`${JSON.stringify(failureJson(argv[0] ?? '', problem), null, 2)}\n`)
}

/** What a thread of the crew does. @param keep keeps the compiled code for later runs */
export async function serveCrew(keep: () => void): Promise<void> {
  const crew = await import('./workspace/carry/crew-member.ts')
  await crew.serveCrew(keep)
}

export { useScreen } from './commands/screen.ts'
export { COMMANDS }
