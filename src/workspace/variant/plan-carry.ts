import type { Release } from '../../core/facts/release.ts'
import { nameOf } from '../../core/facts/release.ts'
import type { LocatedProblem } from '../../core/report/report.ts'
import { fileProblem } from '../../core/report/report.ts'
import type { Triple } from '../../core/document/sides.ts'
import { refuseAbsent } from '../carry/absent-files.ts'
import { isLeftOut } from '../config/file-rule.ts'
import { EXIT, Failure } from '../failure.ts'
import { releaseTree } from '../store/release-tree.ts'
import { NO_VANILLA, releaseNamed } from '../store/release.ts'
import type { FileTree } from '../tree.ts'
import type { Variant, Workspace } from '../workspace.ts'
import { downloadNotes } from './download-age.ts'
import type { Mine, MineChoice } from './mine.ts'
import { mineOf } from './mine.ts'
import { goneNotes, resetNotes, unsureWords } from './notes.ts'
import { guessedOld, refuseOtherVanilla } from './stands-on.ts'

/** What a call says of a variant's carry. */
export interface CarryChoice {
  to: string
  /** A release, `guess` or `none`; the config's release where nothing is said. */
  old?: string | undefined
  mine?: MineChoice
  yes: boolean
  signal?: AbortSignal | undefined
}

/** What a variant's carry is made from. */
export interface PlannedCarry {
  trees: Triple<FileTree>
  mine: Mine
  /** How old is named: a release, or `none`. */
  from: string
  old: 'release' | 'guess' | 'none'
  to: Release
  /** Of files that have another release as old: which. */
  guessed: ReadonlyMap<string, string>
  notes: LocatedProblem[]
}

/**
 * The three folders of a variant's carry.
 *
 * @throws Failure where it is not clear which files are meant
 */
export async function planCarry(
  workspace: Workspace,
  variant: Variant,
  choice: CarryChoice,
): Promise<PlannedCarry> {
  const { store, config } = workspace
  const releases = await store.releases()
  const to = releaseNamed(releases, choice.to)
  const named = choice.old === 'guess' ? variant.vanilla : (choice.old ?? variant.vanilla)
  if (named === NO_VANILLA && choice.old === 'guess') throw nothingToGuessFrom(variant)
  const from = named === NO_VANILLA ? undefined : releaseNamed(releases, named)
  const mine = await mineOf(workspace, variant, { choice: choice.mine, signal: choice.signal })
  if (mine.unsure.length > 0) throw unsure(variant, mine)
  if (choice.old === undefined && from !== undefined)
    await refuseOtherVanilla(workspace, variant, mine.tree, from)
  const isMeant = ([path]: readonly [string, unknown]): boolean => !isLeftOut(config, path)
  const fresh = new Map([...(await releaseTree(store, to, true))].filter(isMeant))
  const notes = [
    ...downloadNotes(variant),
    ...resetNotes(mine.reset),
    ...goneNotes(mine),
    ...stepBack(releases, from, to),
  ]
  let old: FileTree = new Map()
  const guessed = new Map<string, string>()
  if (from !== undefined && choice.old === 'guess') {
    const guess = await guessedOld(workspace, mine.tree, from)
    old = guess.tree
    for (const [path, name] of guess.releases) if (name !== nameOf(from)) guessed.set(path, name)
  } else if (from !== undefined) old = await releaseTree(store, from, true)
  const trees: Triple<FileTree> = [new Map([...old].filter(isMeant)), fresh, mine.tree]
  const said = {
    isVariant: true,
    sparse: variant.sparse === true,
    onto: false,
    oldUnknown: from === undefined,
  }
  refuseAbsent(trees, config, { ...said, yes: choice.yes })
  return {
    trees,
    mine,
    from: from === undefined ? NO_VANILLA : nameOf(from),
    old: from === undefined ? 'none' : choice.old === 'guess' ? 'guess' : 'release',
    to,
    guessed,
    notes,
  }
}

function nothingToGuessFrom({ name }: Variant): Failure {
  return new Failure('carry/no-vanilla', `${name} has no vanilla that it was made from`, {
    exit: EXIT.wrongCall,
    hint: 'name one: --old VERSION; anagnosis vanilla guess FOLDER tells which it may be',
  })
}

function unsure({ name }: Variant, { unsure: files }: Mine): Failure {
  const were = files.length === 1 ? 'was reset, and holds' : 'were reset, and hold'
  const from = files[0]?.kept.backup.name ?? ''
  return new Failure(
    'carry/reset-or-edited',
    `${unsureWords(files)} of ${name} ${were} values that neither a release nor the kept copy (${from}) has`,
    {
      exit: EXIT.refused,
      hint: '--mine live carries what is live, --mine kept carries the kept copies',
      next: ['--mine kept', '--mine live'],
    },
  )
}

function stepBack(
  releases: readonly Release[],
  from: Release | undefined,
  to: Release,
): LocatedProblem[] {
  if (from === undefined || releases.indexOf(to) >= releases.indexOf(from)) return []
  return [
    fileProblem('', {
      severity: 'warning',
      code: 'carry/step-back',
      message: `${nameOf(to)} comes before ${nameOf(from)}: this is a step back`,
    }),
  ]
}
