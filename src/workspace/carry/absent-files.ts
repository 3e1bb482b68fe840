import type { Triple } from '../../core/document/sides.ts'
import { MINE, NEW } from '../../core/document/sides.ts'
import type { Config } from '../config/config.ts'
import { isLeftOut } from '../config/file-rule.ts'
import { EXIT, Failure } from '../failure.ts'
import type { FileTree } from '../tree.ts'

/** Where more than this share of old's files is absent, ... */
const MOST_ABSENT = 0.2
/** ... and so many at least, somebody is asked. */
const LEAST_ABSENT = 2

/** What an option said of absent files. */
export interface Said {
  sparse: boolean
  /** Whether new stands on another release. */
  onto: boolean
  yes: boolean
  /** Whether the folder is that of a variant, of which the config says more. */
  isVariant: boolean
  /** Whether it is known that there is no old vanilla. */
  oldUnknown: boolean
}

/**
 * Refuses inputs that lack much of what old has, where no option says why: such a folder is mostly the wrong one, or
 * holds changed files alone.
 *
 * @throws Failure with the ways on
 */
export function refuseAbsent(trees: Triple<FileTree>, config: Config, said: Said): void {
  if (said.yes) return
  const [old, fresh, mine] = trees
  for (const [name, tree] of [['new', fresh] as const, ['mine', mine] as const])
    if (tree.size === 0) throw asked(`${name} holds no files`, name, said)
  const paths = [...old]
    .filter(([path, { kind }]) => kind === 'file' && !isLeftOut(config, path))
    .map(([path]) => path)
  const inNew = said.onto ? 0 : lacking(paths, trees[NEW])
  if (isMuch(inNew, paths.length))
    throw asked(`${inNew} of the ${paths.length} files of old are not in new`, 'new', said)
  const inMine = said.sparse ? 0 : lacking(paths, trees[MINE])
  if (isMuch(inMine, paths.length))
    throw asked(`${inMine} of the ${paths.length} files of old are not in mine`, 'mine', said)
  if (old.size === 0 && !said.oldUnknown) throw asked('old holds no files', 'old', said)
}

function lacking(paths: readonly string[], tree: FileTree): number {
  const there = new Set([...tree.keys()].map((path) => path.toLowerCase()))
  return paths.filter((path) => !there.has(path.toLowerCase())).length
}

function isMuch(absent: number, all: number): boolean {
  return absent >= LEAST_ABSENT && absent > all * MOST_ABSENT
}

/** What would explain that an input lacks files, in a call on paths and of a variant. */
const WAYS = {
  old: ['', ''],
  new: [
    '--onto SOURCE, where new holds changed files only; ',
    'vanilla add --onto VERSION, where the release was taken in with changed files only; ',
  ],
  mine: [
    '--sparse, where mine holds customised files only; ',
    'sparse: true in anagnosis.yaml, where the folder holds customised files only; ',
  ],
} as const

function asked(message: string, input: keyof typeof WAYS, { isVariant }: Said): Failure {
  return new Failure('carry/absent-files', message, {
    exit: EXIT.refused,
    hint: `${WAYS[input][isVariant ? 1 : 0]}--yes, where that is as it should be`,
    next: ['--yes'],
  })
}
