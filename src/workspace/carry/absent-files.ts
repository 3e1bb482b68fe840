import type { Triple } from '../../core/document/sides.ts'
import { MINE, NEW } from '../../core/document/sides.ts'
import type { Config } from '../config/config.ts'
import { ruleFor } from '../config/file-rule.ts'
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
    if (tree.size === 0)
      throw asked(`${name} holds no files`, name === 'new' ? ['--onto'] : ['--sparse'])
  const paths = [...old]
    .filter(([path, { kind }]) => kind === 'file' && ruleFor(config, path)?.take !== 'leave-out')
    .map(([path]) => path)
  const inNew = said.onto ? 0 : lacking(paths, trees[NEW])
  if (isMuch(inNew, paths.length))
    throw asked(`${inNew} of the ${paths.length} files of old are not in new`, ['--onto'])
  const inMine = said.sparse ? 0 : lacking(paths, trees[MINE])
  if (isMuch(inMine, paths.length))
    throw asked(`${inMine} of the ${paths.length} files of old are not in mine`, ['--sparse'])
  if (old.size === 0 && !said.oldUnknown) throw asked('old holds no files', [])
}

function lacking(paths: readonly string[], tree: FileTree): number {
  const there = new Set([...tree.keys()].map((path) => path.toLowerCase()))
  return paths.filter((path) => !there.has(path.toLowerCase())).length
}

function isMuch(absent: number, all: number): boolean {
  return absent >= LEAST_ABSENT && absent > all * MOST_ABSENT
}

const WAYS: Record<string, string> = {
  '--onto': '--onto VERSION, where new holds changed files only',
  '--sparse': '--sparse, where mine holds customised files only',
}

function asked(message: string, ways: readonly string[]): Failure {
  const named = ways.flatMap((way) => WAYS[way] ?? [])
  return new Failure('carry/absent-files', message, {
    exit: EXIT.refused,
    hint: [...named, '--yes, where that is as it should be'].join('; '),
    next: ['--yes'],
  })
}
