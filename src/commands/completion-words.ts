import { FORMAT_NAMES } from '../core/formats/format.ts'

/** What completion has to know of a command. */
export interface CompletedCommand {
  /** Its words, joined by blanks. */
  name: string
  /** Its options with their dashes, and whether a value stands behind them. */
  options: ReadonlyMap<string, boolean>
  /** What its arguments are, in their order. */
  args: readonly string[]
}

/** What can stand in calls beside commands and options. */
export interface CompletedNames {
  variants: readonly string[]
  releases: readonly string[]
  backups: readonly string[]
}

/** Options whose values are names that are known. */
const VALUES: Readonly<Record<string, (names: CompletedNames) => readonly string[]>> = {
  '--to': ({ releases }) => releases,
  '--old': ({ releases }) => [...releases, 'guess', 'none'],
  '--onto': ({ releases }) => releases,
  '--before': ({ releases }) => releases,
  '--after': ({ releases }) => releases,
  '--vanilla': ({ releases }) => [...releases, 'none'],
  '--for': ({ variants }) => variants,
  '--from': ({ variants }) => variants,
  '--mine': () => ['live', 'kept'],
  '--format': () => FORMAT_NAMES,
  '--take': () => ['vanilla', 'mine', 'both', 'value:', 'source:', 'onto:'],
}

/** Arguments whose values are names that are known. */
const ARGUMENTS: Readonly<Record<string, (names: CompletedNames) => readonly string[]>> = {
  variant: ({ variants }) => variants,
  target: ({ variants }) => variants,
  version: ({ releases }) => releases,
  old: ({ releases }) => releases,
  new: ({ releases }) => releases,
  backup: ({ backups }) => backups,
  shell: () => ['bash', 'zsh', 'powershell'],
}

/**
 * The words that can stand in the place of the last one of a call; none where a path is likelier.
 *
 * @param words those of the call so far; the last is the one that is completed, perhaps empty
 */
export function completedWords(
  words: readonly string[],
  commands: readonly CompletedCommand[],
  names: CompletedNames,
): string[] {
  const last = words.at(-1) ?? ''
  const before = words.slice(0, -1)
  const begun = (all: readonly string[]): string[] =>
    [...new Set(all)].filter((each) => each.startsWith(last)).sort()
  const command = commandOf(before, commands)
  if (command === undefined) {
    const given = before.length === 0 ? '' : `${before.join(' ')} `
    const next = commands
      .filter(({ name }) => name.startsWith(given))
      .map(({ name }) => name.slice(given.length).split(' ')[0] ?? '')
    return begun([...next, ...(before.length === 0 ? ['help', '--help', '--version'] : [])])
  }
  const rest = before.slice(command.name.split(' ').length)
  // a command whose name others begin with: the next word may be theirs
  const longer =
    rest.length > 0
      ? []
      : commands
          .filter(({ name }) => name.startsWith(`${command.name} `))
          .map(({ name }) => name.slice(command.name.length + 1))
  if (last.startsWith('-')) return begun([...command.options.keys(), '--help'])
  const option = rest.at(-1) ?? ''
  if (command.options.get(option) === true) return begun(VALUES[option]?.(names) ?? [])
  const given = rest.filter(
    (word, at) => !word.startsWith('-') && command.options.get(rest[at - 1] ?? '') !== true,
  )
  const argument = command.args[given.length] ?? ''
  return begun([...longer, ...(ARGUMENTS[argument]?.(names) ?? [])])
}

/** The command that words begin with: that of the most words. */
function commandOf(
  words: readonly string[],
  commands: readonly CompletedCommand[],
): CompletedCommand | undefined {
  return commands
    .filter(({ name }) => words.slice(0, name.split(' ').length).join(' ') === name)
    .sort((a, b) => b.name.length - a.name.length)[0]
}
