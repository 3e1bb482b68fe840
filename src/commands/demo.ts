import { spawnSync } from 'node:child_process'
import { join, resolve } from 'node:path'
import * as Args from '@oclif/core/args'
import { demoJson } from '../show/demo-json.ts'
import { wrap } from '../show/text.ts'
import { addToConfig, putOver, writeDemo } from '../workspace/demo-data.ts'
import { paragraph, quoted } from './call.ts'
import { ProgramCommand } from './program-command.ts'
import { colourLevel } from './terminal.ts'

interface Call {
  why: string
  args: readonly string[]
}

/** What is done to the data that no command does: one folder is copied over another. */
interface Updater {
  why: string
  updater: readonly [from: string, over: string]
}

/** A text of the demo data that goes to the end of the config. */
interface Addition {
  why: string
  adds: string
}

/** An update, in the order in which an operator works. */
const STORY: readonly (Call | Updater | Addition)[] = [
  {
    why: 'First a workspace for the server: what it was made from, and a backup.',
    args: [
      'setup',
      ...['--variant', 'old-harbour', '--folder', 'old-harbour'],
      ...['--vanilla', '4.1', '--source', 'vanilla-4.1', '--game', 'Saltlantern'],
    ],
  },
  {
    why: 'What must hold in the files of the server, whatever an update brings, is said in anagnosis.yaml:',
    adds: 'checks.yaml',
  },
  {
    why: '4.2 has come out. It goes into the store, too.',
    args: ['vanilla', 'add', '4.2', 'vanilla-4.2'],
  },
  {
    why: 'Is the server really made from 4.1, and how far is it from it?',
    args: ['vanilla', 'guess', 'old-harbour'],
  },
  {
    why: "Is the update worth it, and what does it do to the server's own edits?",
    args: ['whatsnew', '4.1', '4.2', '--for', 'old-harbour'],
  },
  {
    why: "Now the server's edits are carried over, into a draft. Nothing live is touched.",
    args: ['carry', 'old-harbour', '--to', '4.2'],
  },
  {
    why: 'Three bells hold 8 where vanilla went from 2 to 3: four times vanilla, as all others.',
    args: [
      ...['settle', 'old-harbour', '--file', 'salvage/finds.xml'],
      ...['--key', 'find[diving-bell]/yield/@most', '--take', 'value:12', '--alike'],
    ],
  },
  {
    why: 'In the rules for divers vanilla is right.',
    args: ['settle', 'old-harbour', '--file', 'rules/dive.json', '--take', 'vanilla'],
  },
  {
    why: 'For all that is left the server keeps what it has.',
    args: ['settle', 'old-harbour', '--file', '**', '--take', 'mine'],
  },
  {
    why: 'Nothing is open. Does the draft hold what must hold?',
    args: ['check', 'old-harbour', '--draft'],
  },
  {
    why: "The server's own add-ons run on 4.2 as they are: that is said in both of them.",
    args: [
      ...['settle', 'old-harbour', '--file', 'add-ons/*/about.json'],
      ...['--key', 'for', '--take', 'value:4.2'],
    ],
  },
  {
    why: 'The draft is put live. What was live before is in a backup.',
    args: ['deliver', 'old-harbour', '--yes'],
  },
  {
    why: "An updater of the game puts its own files over the server's.",
    updater: ['vanilla-4.2', 'old-harbour'],
  },
  { why: 'The overview tells what is gone, and how to get it back.', args: ['overview'] },
  {
    why: 'The copy that was kept is put live again: a carry takes it along.',
    args: ['carry', 'old-harbour', '--to', '4.2'],
  },
  {
    why: 'Nothing is asked again, and the server is as it was.',
    args: ['deliver', 'old-harbour', '--yes'],
  },
  {
    why: '4.3 goes into trial. What it changes is given out alone, and stands on 4.2.',
    args: ['vanilla', 'add', '4.3', 'trial-4.3', '--onto', '4.2', '--trial'],
  },
  {
    why: 'And the next update begins: what was decided holds where the same values meet.',
    args: ['carry', 'old-harbour', '--to', '4.3'],
  },
  { why: 'And where all stands.', args: ['overview'] },
]

export default class Demo extends ProgramCommand {
  static override summary =
    'Write the demo data and run the story on it, saying each command as it runs it.'
  static override description =
    paragraph(`Saltlantern is a made-up game; Old Harbour is a made-up community server that runs customised
files of its release 4.1. The demo writes the vanilla releases and the server's files, sets up a
workspace, tells what the update to 4.2 brings, carries the server over, decides what is open, puts it live,
lets an updater wipe it, brings it back, and carries it on to the trial of 4.3.`)

  static override examples = ['<%= config.bin %> demo saltlantern']

  static override args = {
    dir: Args.string({
      description: 'The folder to write, which must be new or empty; a temporary one by default',
    }),
  }

  async run(): Promise<void> {
    const { args, flags } = await this.parse(Demo)
    const root = resolve(await writeDemo(args.dir))
    if (!flags.json) this.print(opening(root))
    const steps: (ReturnType<Demo['step']> & { call: readonly string[] })[] = []
    for (const told of STORY) {
      if (!flags.json) this.print(`\n${wrap(told.why, this.width, '').join('\n')}\n`)
      if ('updater' in told) {
        const [from, over] = told.updater
        await putOver(join(root, from), join(root, over))
        continue
      }
      if ('adds' in told) {
        const text = await addToConfig(root, told.adds)
        if (!flags.json) this.print(`\n${text}`)
        continue
      }
      const call = told.args
      if (!flags.json) this.print(`\n$ anagnosis ${shownCall(call)}\n\n`)
      steps.push({ call, ...this.step(root, call, flags.json) })
    }
    const next = ['anagnosis settle old-harbour', 'anagnosis overview']
    if (flags.json) await this.printJson(demoJson(root, steps, next))
    else this.print(ENDING)
    process.exitCode = steps.find(({ exit }) => exit > 1)?.exit ?? 0
  }

  /** Runs one command as the user would; its output is passed on, or taken as a document. */
  private step(
    root: string,
    call: readonly string[],
    isJson: boolean,
  ): { exit: number; out: string } {
    const program = join(this.config.root, 'bin', 'anagnosis.js')
    const isColoured = !isJson && colourLevel(process.stdout) > 0
    const { status, stdout } = spawnSync(
      process.execPath,
      [program, ...call, ...(isJson ? ['--json'] : [])],
      {
        cwd: root,
        stdio: ['ignore', 'pipe', 'inherit'],
        encoding: 'utf8',
        maxBuffer: 1 << 28,
        env: {
          ...process.env,
          COLUMNS: String(this.width),
          ...(isColoured ? { FORCE_COLOR: '1' } : {}),
        },
      },
    )
    if (!isJson) this.print(stdout)
    return { exit: status ?? 1, out: stdout }
  }
}

function shownCall(call: readonly string[]): string {
  const words = call.map(quoted).join(' ')
  return words.length < 66 ? words : words.replace(/ --/g, ' \\\n    --')
}

function opening(root: string): string {
  return `The demo data is in ${root}:
  vanilla-4.1    Saltlantern's own files, release 4.1
  vanilla-4.2    the same of release 4.2, which has just come out
  trial-4.3      what the first trial of 4.3 changes
  old-harbour    the files of the server Old Harbour, made from 4.1

$ cd ${quoted(root)}
`
}

const ENDING = `
To try next, in that folder:
  Look at what became of one key:
    anagnosis carry old-harbour --to 4.3 --dry-run \\
        --explain 'find[diving-bell]/yield/@most'
  See what was decided, and what nobody looked at:
    anagnosis settle old-harbour --list
  Take a comma or a bracket out of a file in old-harbour and carry again: the
  file and the place are named, and all others are carried.
`
