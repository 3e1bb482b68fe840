import { nearest } from '../core/keys/nearest.ts'

/** What is wrong with a call, and what to do. */
export interface WrongCall {
  message: string
  hint: string
}

/** A call as the program takes it: `help carry`, `-h` and `-v` are other ways to say `carry --help` and `--version`. */
export function plainCall(argv: readonly string[]): string[] {
  const [first, ...rest] = argv
  if (first === undefined) return ['--help']
  if (first === 'help') return [...rest, '--help']
  if (argv.length === 1 && (first === '-v' || first === 'version')) return ['--version']
  const end = argv.indexOf('--')
  return argv.map((word, at) => (word === '-h' && (end < 0 || at < end) ? '--help' : word))
}

/**
 * What is wrong with the command that a call names; undefined where there is one.
 *
 * @param ids the commands, their words joined by `:`
 */
export function unknownCommand(
  argv: readonly string[],
  ids: readonly string[],
): WrongCall | undefined {
  const words = argv.slice(0, firstOption(argv))
  if (words.length === 0)
    return argv.some((word) => word === '--help' || word === '--version')
      ? undefined
      : {
          message: `the call begins with ${argv[0] ?? ''} and names no command`,
          hint: 'anagnosis --help lists the commands',
        }
  const commands = ids.map((id) => id.replaceAll(':', ' '))
  const isOne = commands.some(
    (command) => words.slice(0, command.split(' ').length).join(' ') === command,
  )
  const isTopic =
    words.length === 1 && commands.some((command) => command.startsWith(`${words[0] ?? ''} `))
  if (isOne || isTopic) return undefined
  const topics = commands
    .filter((command) => command.includes(' '))
    .map((command) => command.split(' ')[0] ?? '')
  const two = words.slice(0, 2).join(' ')
  const isHalf = commands.some((command) => command.startsWith(`${words[0] ?? ''} `))
  const near = nearest(two, commands) ?? nearest(words[0] ?? '', [...commands, ...topics])
  const named = isHalf || near?.includes(' ') === true ? two : (words[0] ?? '')
  return {
    message: `there is no command ${named}`,
    hint:
      near === undefined
        ? 'anagnosis --help lists the commands'
        : `did you mean anagnosis ${near}?`,
  }
}

function firstOption(argv: readonly string[]): number {
  const at = argv.findIndex((word) => word.startsWith('-'))
  return at < 0 ? argv.length : at
}

/** A call of one command, as it was typed, and the options that the command has. */
export interface TypedCall {
  command: string
  argv: readonly string[]
  /** Each without dashes; those of type `boolean` take no value. */
  options: Readonly<Record<string, { type: string }>>
}

/** What is wrong with the options and arguments of a call. @param said what the parser says */
export function wrongCall(said: string, { command, argv, options }: TypedCall): WrongCall {
  const help = `anagnosis ${command} --help shows how it is called`
  const valued = argv
    .map((word) => /^--([\w-]+)=/.exec(word)?.[1] ?? '')
    .find((name) => options[name]?.type === 'boolean')
  if (valued !== undefined)
    return { message: `--${valued} takes no value, and one is given behind =`, hint: help }
  const known = Object.keys(options).map((option) => `--${option}`)
  const unknown = /Nonexistent flags?: ([^\s,]+)/.exec(said)?.[1]
  if (unknown !== undefined) {
    const near = nearest(unknown, known)
    return {
      message: `${command} has no option ${unknown}`,
      hint: near === undefined ? help : `did you mean ${near}?`,
    }
  }
  const missing = [...said.matchAll(/Missing required flag (\S+)/g)].map(
    ([, flag = '']) => `--${flag}`,
  )
  if (missing.length > 0) return { message: `the call lacks ${missing.join(', ')}`, hint: help }
  const listed = /Missing \d+ required args?:\s*([\s\S]*)/.exec(said)?.[1] ?? ''
  const args = [...listed.matchAll(/^(\w+) {2}/gm)].map(([, name = '']) => name.toUpperCase())
  if (args.length > 0) return { message: `the call lacks ${args.join(', ')}`, hint: help }
  for (const [pattern, words] of FORMS) {
    const found = pattern.exec(said)
    if (found !== null) return { hint: help, ...words(found) }
  }
  return { message: 'the call cannot be read', hint: help }
}

/** What the parser says, and the same in words for people. */
const FORMS: readonly (readonly [
  RegExp,
  (found: RegExpExecArray) => { message: string; hint?: string },
])[] = [
  [
    /Unexpected arguments?: ([^\n]*)/,
    ([, words = '']) => ({
      message: `this call has too many words: ${words}`,
    }),
  ],
  [
    /Flag (-\S+) can only be specified once/,
    ([, flag = '']) => ({ message: `${flag} stands twice in this call` }),
  ],
  [
    /Flag (-\S+) expects a value/,
    ([, flag = '']) => ({ message: `${flag} needs a value behind it` }),
  ],
  [
    /Expected (-\S+?)=(.*) to be one of: ([^\n]*)/,
    ([, flag = '', given = '', values = '']) => {
      const near = nearest(given, values.split(', '))
      const meant = near === undefined ? '' : `did you mean ${near}? `
      return { message: `${flag} cannot be ${given}`, hint: `${meant}it is one of ${values}` }
    },
  ],
  [
    /(--[\w-]+)(?:=.*?)? cannot also be provided when using (--[\w-]+)/,
    ([, one = '', other = '']) => ({ message: `${one} and ${other} cannot stand in one call` }),
  ],
  [
    /Parsing (--[\w-]+)[^]*?greater than or equal to (\d+)[^]*?received: ([^\n]*)/,
    ([, flag = '', least = '', given = '']) => ({
      message: `${flag} needs a number from ${least} on, and ${given} is less`,
    }),
  ],
  [
    /Parsing (--[\w-]+)[^]*?(?:integer|number)[^]*?received: ([^\n]*)/,
    ([, flag = '', given = '']) => ({
      message: `${flag} needs a number, and ${given} is not a number`,
    }),
  ],
]
