import { spawnSync } from 'node:child_process'
import { chmodSync } from 'node:fs'
import { describe, expect, test } from 'vitest'
import { completionDocument } from '../../src/show/completion-document.ts'
import { PROGRAM, Workplace } from './program.ts'
import { hasTool, Terminal } from './terminal.ts'

function workspace(): Workplace {
  const place = new Workplace({
    'v1/a.ini': 'a = 1\n',
    'live/a.ini': 'a = 1\n',
    'anagnosis.yaml':
      'variants:\n  harbour: { folder: live, vanilla: "4.1" }\n  the trench: { folder: live, vanilla: "4.1" }\n',
    'bin/anagnosis': `#!/bin/sh\nexec '${[process.execPath, ...PROGRAM].join("' '")}' "$@"\n`,
  })
  chmodSync(place.path('bin/anagnosis'), 0o755)
  place.run(['vanilla', 'add', '4.1', 'v1'])
  return place
}

const words = (place: Workplace, ...given: string[]): string[] =>
  place
    .run(['completion', 'words', '--', ...given])
    .out.split('\n')
    .filter((word) => word !== '')

describe('completion', () => {
  test('knows commands, options, variants and releases', () => {
    const place = workspace()
    expect(words(place, 's')).toEqual(['settle', 'setup'])
    expect(words(place, 'vanilla', '')).toEqual([
      'add',
      'guess',
      'list',
      'order',
      'remove',
      'verify',
    ])
    expect(words(place, 'carry', '')).toEqual(['harbour', 'the trench'])
    expect(words(place, 'carry', 'harbour', '--to', '')).toEqual(['4.1'])
    expect(words(place, 'carry', 'harbour', '--d')).toEqual(['--drop', '--dry-run'])
    expect(words(place, 'whatsnew', '4.1', '')).toEqual(['4.1'])
    expect(words(place, 'vanilla', 'add', '4.2', 'v')).toEqual([])
    // where there is no workspace there are no names, and nothing is said of that
    const outside = new Workplace()
    expect([words(outside, 'carry', ''), words(outside, 'carry', '--dr')]).toEqual([
      [],
      ['--drop', '--dry-run'],
    ])
    expect(outside.run(['completion', 'fish']).code).toBe(2)
    const { out } = outside.run(['completion', 'zsh', '--json'])
    expect(completionDocument.parse(JSON.parse(out)).script).toContain('compdef')
  })

  const path = (place: Workplace): NodeJS.ProcessEnv => ({
    ...process.env,
    PATH: `${place.path('bin')}:${process.env.PATH ?? ''}`,
  })

  test('works in bash', () => {
    const place = workspace()
    const script = `eval "$(anagnosis completion bash)"
complete -p anagnosis >/dev/null || exit 1
ask() { COMP_WORDS=("$@"); COMP_CWORD=$(($# - 1)); COMPREPLY=(); _anagnosis_words; printf '%s|' "\${COMPREPLY[@]}"; echo; }
ask anagnosis vanilla l
ask anagnosis carry ''
ask anagnosis carry harbour --to ''`
    const { stdout } = spawnSync('bash', ['--norc', '-c', script], {
      cwd: place.folder,
      env: path(place),
      encoding: 'utf8',
    })
    expect(stdout.split('\n')).toEqual(['list|', 'harbour|the trench|', '4.1|', ''])
  })

  test.skipIf(!hasTool('zsh') || !hasTool('tmux'))('works in zsh', async () => {
    const place = workspace()
    const line = `PATH='${path(place).PATH ?? ''}' exec zsh -f -i`
    const terminal = new Terminal(place.folder, line)
    const dump = place.path('dump')
    terminal.press(
      `PS1='ready '; autoload -Uz compinit; compinit -u -d ${dump}; eval "$(anagnosis completion zsh)"`,
      'Enter',
    )
    await terminal.shows(/^ready$/m)
    terminal.press('anagnosis vanilla ve', 'Tab')
    await terminal.shows('anagnosis vanilla verify')
    terminal.press('C-u', 'anagnosis carry --to ', 'Tab')
    await terminal.shows('--to 4.1')
  })
})

describe('the command line', () => {
  const program = new Workplace()
  const said = (...args: string[]): string => {
    const { code, out, err } = program.run(args)
    return `${code ?? ''} ${out}${err}`.replace(/\s+/g, ' ')
  }

  test('takes what people try', () => {
    const help = program.run(['--help']).out
    for (const call of [['-h'], ['help'], []])
      expect(program.run(call)).toMatchObject({ code: 0, out: help })
    expect(program.run(['help', 'carry']).out).toBe(program.run(['carry', '--help']).out)
    expect(program.run(['carry', '-h']).out).toBe(program.run(['carry', '--help']).out)
    for (const call of [['-v'], ['version']])
      expect(program.run(call).out).toMatch(/^anagnosis\/\d/)
    expect(program.run(['vanilla', 'add', '--help']).out).toContain(
      'vanilla add VERSION SOURCE... ',
    )
  })

  test('names what is nearest to a mistyped word, and shows no words of a library', () => {
    expect(said('vanila', 'list')).toBe(
      '2 there is no command vanila list did you mean anagnosis vanilla list? ',
    )
    expect(said('vanilla', 'lst')).toContain('did you mean anagnosis vanilla list?')
    expect(said('carr', 'old-harbour')).toContain('did you mean anagnosis carry?')
    expect(said('vanila')).toContain('did you mean anagnosis vanilla?')
    expect(said('carry', '--dryrun')).toBe(
      '2 carry has no option --dryrun did you mean --dry-run? ',
    )
    expect(said('carry', '--to')).toContain('2 --to needs a value behind it')
    expect(said('check', 'a', 'b')).toContain('2 this call has too many words: b')
    expect(said('carry', '--format', 'yaml')).toContain('it is one of xml, json, ini')
    expect(said('settle', '--from', 'a', '--take', 'b')).toContain('cannot stand in one call')
    expect(said('backup', '--keep', 'few')).toContain(
      '2 --keep needs a number, and few is not a number',
    )
    expect(said('backup', '--keep', '0')).toContain('2 --keep needs a number from 1 on')
    expect(said('settle', 'harbour', '--list=yes')).toContain('2 --list takes no value')
    expect(said('-x')).toContain('2 the call begins with -x')
    expect(program.run(['vanila', 'list', '--json']).out).toContain('"code": "call/wrong"')
  })
})
