import { existsSync, statSync } from 'node:fs'
import { basename, join, resolve } from 'node:path'
import { confirm, input } from '@inquirer/prompts'
import { isVariantName } from '../workspace/config/config.ts'
import { Failure } from '../workspace/failure.ts'
import { nameFrom } from '../workspace/paths.ts'
import type { Proposals } from '../workspace/setup/propose.ts'
import { proposeSetup } from '../workspace/setup/propose.ts'
import { CONFIG_NAME } from '../workspace/state/layout.ts'
import { checkLabel, findRelease, NO_VANILLA } from '../workspace/store/release.ts'
import type { Workspace } from '../workspace/workspace.ts'
import { openWorkspace } from '../workspace/workspace.ts'

/** What a call of setup says. */
export interface Said {
  variant?: string | undefined
  folder?: string | undefined
  vanilla?: string | undefined
  source?: string | undefined
  game?: string | undefined
  sparse?: boolean | undefined
}

/** What setup has to know. */
export interface Answers {
  variant: string
  folder: string
  vanilla: string
  source: string | undefined
  game: string | undefined
}

/** The questions of setup, in the order of its options: each with what is likely, and each answer is looked at when it is given. */
export class SetupQuestions {
  private workspace: Workspace | undefined
  private proposals: Proposals = { folders: [], of: () => ({}) }

  constructor(
    private readonly root: string,
    private readonly said: Said,
  ) {}

  /** Gives the answers; undefined where somebody does not want them written. */
  async ask(): Promise<Answers | undefined> {
    const { root, said } = this
    if (existsSync(join(root, CONFIG_NAME))) this.workspace = await openWorkspace(root)
    const taken = (this.workspace?.variants ?? []).map(({ location }) => location)
    this.proposals = proposeSetup(root, taken)
    const [likeliest] = this.proposals.folders
    const named = said.folder ?? likeliest
    const variant = await this.one('A name for your server, map or set of mods:', said.variant, {
      proposed: named === undefined ? undefined : basename(resolve(root, named)),
      isRight: (name) => this.nameFault(name),
    })
    const folder = await this.one('Its live folder, with the customised files:', said.folder, {
      proposed: this.proposals.folders.find((each) => basename(each) === variant) ?? likeliest,
      isRight: folderFault,
    })
    const likely = this.proposals.of(nameFrom(root, folder))
    const vanilla = await this.one(
      'The version of the game that it was made from (none, if you no longer have it):',
      said.vanilla,
      { proposed: likely.vanilla, isRight: labelFault },
    )
    const source = await this.source(vanilla, likely.source)
    const game = await this.one('The name of the game; may be empty:', said.game, {
      proposed: this.workspace?.config.game ?? likely.game,
      mayBeEmpty: true,
    })
    const answers = { variant, folder, vanilla, source, game: orNone(game) }
    return (await this.isWanted(answers)) ? answers : undefined
  }

  private async source(vanilla: string, proposed: string | undefined): Promise<string | undefined> {
    if (vanilla === NO_VANILLA) return undefined
    const releases = (await this.workspace?.store.releases()) ?? []
    if (findRelease(releases, vanilla) !== undefined) return this.said.source
    const answer = await this.one(
      `Where is vanilla ${vanilla}? A folder or an archive; empty for later:`,
      this.said.source,
      {
        proposed,
        mayBeEmpty: true,
        isRight: (path) =>
          path.includes('@') || existsSync(path) || `There is no file or folder ${path}.`,
      },
    )
    return orNone(answer)
  }

  private async isWanted({ variant, folder, vanilla, source, game }: Answers): Promise<boolean> {
    const config = this.workspace === undefined ? 'is written' : 'gets the variant'
    const lines = [
      '',
      `  ${CONFIG_NAME} ${config}, in ${this.root}`,
      `  variant ${variant}: live folder ${folder}, made from ${vanilla}${game === undefined ? '' : `, of ${game}`}`,
      source === undefined
        ? '  no vanilla is taken in yet'
        : `  vanilla ${vanilla} is taken in from ${source}`,
      '  a backup of the live folder is made; nothing in the live folder changes',
      '',
    ]
    process.stderr.write(lines.join('\n'))
    return confirm({ message: 'Is that right?', default: true }, OUTPUT)
  }

  private async one(
    message: string,
    said: string | undefined,
    how: {
      proposed?: string | undefined
      mayBeEmpty?: boolean
      isRight?: (answer: string) => true | string
    },
  ): Promise<string> {
    if (said !== undefined) return said
    const { proposed, mayBeEmpty = false, isRight = () => true } = how
    const answer = await input(
      {
        message,
        ...(proposed === undefined ? {} : { default: proposed }),
        validate(given) {
          const text = given.trim()
          if (text === '') return mayBeEmpty || 'An answer is needed here.'
          return isRight(text)
        },
      },
      OUTPUT,
    )
    return answer.trim()
  }

  private nameFault(name: string): true | string {
    if (!isVariantName(name)) return `${name} cannot be a name: files are called after it.`
    const isTaken = this.workspace?.variants.some((each) => each.name === name) === true
    return isTaken ? `${CONFIG_NAME} has a variant ${name} already.` : true
  }
}

const OUTPUT = { output: process.stderr }

function folderFault(path: string): true | string {
  const there = statSync(path, { throwIfNoEntry: false })
  if (there === undefined) return `There is no folder ${path}.`
  return there.isDirectory() || `${path} is not a folder.`
}

function labelFault(label: string): true | string {
  if (label === NO_VANILLA) return true
  try {
    checkLabel(label)
    return true
  } catch (error) {
    return error instanceof Failure ? `${error.message}.` : String(error)
  }
}

function orNone(answer: string): string | undefined {
  return answer === '' ? undefined : answer
}
