import { Args } from '@oclif/core'
import { join, resolve } from 'node:path'
import { writeDemo } from '../workspace/demo-data.ts'
import { ProgramCommand } from './program-command.ts'
import Carry from './carry.ts'

export default class Demo extends ProgramCommand {
  static override summary =
    'Write the demo data and run the story on it, saying each command as it runs it.'
  static override description = `Saltlantern is a made-up game; Old Harbour is a made-up community server that runs customised
files of its release 4.1. The demo writes both vanilla releases and the server's files, and
carries the server over to 4.2.`

  static override examples = ['<%= config.bin %> demo saltlantern']

  static override args = {
    dir: Args.string({
      description: 'The folder to write, which must be new or empty; a temporary one by default',
    }),
  }

  async run(): Promise<void> {
    const { args, flags } = await this.parse(Demo)
    const root = await writeDemo(args.dir)
    const shown = args.dir ?? root
    const at = (name: string): string => join(shown, name)
    const call = [
      '--old',
      at('vanilla-4.1'),
      '--new',
      at('vanilla-4.2'),
      '--mine',
      at('old-harbour'),
      '--out',
      at('carried'),
    ]
    if (!flags.json) this.print(opening(shown, call))
    await Carry.run(flags.json ? [...call, '--json'] : call, { root: this.config.root })
    if (!flags.json) this.print(ending(at))
    if (process.exitCode === 1) process.exitCode = 0
  }
}

function opening(shown: string, call: readonly string[]): string {
  return `The demo data is in ${resolve(shown)}:
  vanilla-4.1    Saltlantern's own files, release 4.1
  vanilla-4.2    the same of release 4.2, which has just come out
  old-harbour    the files of the server Old Harbour, made from 4.1

$ anagnosis carry ${call.join(' ').replace(/ --/g, ' \\\n    --')}

`
}

function ending(at: (name: string) => string): string {
  return `
To try next:
  Look at what became of one file:
    anagnosis carry --old ${at('vanilla-4.1/rules/dive.json')} \\
        --new ${at('vanilla-4.2/rules/dive.json')} \\
        --mine ${at('old-harbour/rules/dive.json')} --out dive.json
  Take a comma or a bracket out of a file in ${at('old-harbour')}
  and carry again with --replace: the file and the place are named, and all others
  are carried.
`
}
