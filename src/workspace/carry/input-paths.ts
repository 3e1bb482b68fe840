import { lstat, realpath, stat } from 'node:fs/promises'
import { basename, dirname, join, relative, resolve, sep } from 'node:path'
import { SIDE_NAMES } from '../../core/document/sides.ts'
import { EXIT, Failure, systemFailure } from '../failure.ts'

/** The paths of a carry: three inputs and where the result goes. */
export interface CarryPaths {
  old: string
  new: string
  mine: string
  out: string
}

/** Whether there is no old vanilla: `--old none`. */
export function isNoOld(paths: CarryPaths): boolean {
  return paths.old === 'none'
}

/** The inputs that there are. */
function inputsOf(paths: CarryPaths): readonly (typeof SIDE_NAMES)[number][] {
  return isNoOld(paths) ? ['new', 'mine'] : SIDE_NAMES
}

/** Whether the inputs are files or folders. @throws Failure where one is missing or they are of different kinds */
export async function kindOfInputs(paths: CarryPaths): Promise<'file' | 'folder'> {
  const names = inputsOf(paths)
  const kinds: ('file' | 'folder')[] = []
  for (const name of names) kinds.push(await kindOf(paths[name], `--${name}`))
  const [first = 'file'] = kinds
  const other = kinds.findIndex((kind) => kind !== first)
  if (other >= 0)
    throw mixedKinds(
      paths,
      [names[0] ?? 'new', names[other] ?? 'mine'],
      [first, kinds[other] ?? 'file'],
    )
  return first
}

async function kindOf(path: string, option: string): Promise<'file' | 'folder'> {
  const there = await stat(path).catch((error: unknown) => {
    throw systemFailure(error, `${option}: looking at`, path)
  })
  if (there.isDirectory()) return 'folder'
  if (there.isFile()) return 'file'
  throw new Failure('call/neither', `${option}: ${path} is neither a file nor a folder`, {
    exit: EXIT.wrongCall,
    path,
  })
}

function mixedKinds(
  paths: CarryPaths,
  names: readonly [keyof CarryPaths, keyof CarryPaths],
  kinds: readonly [string, string],
): Failure {
  const [one, other] = names.map((name, i) => `--${name} ${paths[name]} is a ${kinds[i] ?? ''}`)
  return new Failure('call/mixed-kinds', `${one ?? ''}, but ${other ?? ''}`, {
    exit: EXIT.wrongCall,
    path: paths[names[1]],
    hint: 'name files for all, or folders for all',
  })
}

/** Refuses an output that lies in an input, or that an input lies in. */
export async function refuseOverlap(paths: CarryPaths): Promise<void> {
  const out = await realLocation(paths.out)
  for (const name of inputsOf(paths)) {
    const input = await realLocation(paths[name])
    const how = isWithin(out, input) ? 'lies in' : isWithin(input, out) ? 'lies over' : undefined
    if (how === undefined) continue
    const message =
      out === input
        ? `--out is the same as --${name}`
        : `--out ${paths.out} ${how} --${name} ${paths[name]}`
    throw new Failure('out/overlaps', message, {
      exit: EXIT.refused,
      path: paths.out,
      hint: 'an input is never written to: name a path beside it',
    })
  }
}

/** A path with its links resolved, as far as it exists. */
async function realLocation(path: string): Promise<string> {
  const absolute = resolve(path)
  const real = await realpath(absolute).catch(() => undefined)
  if (real !== undefined) return real
  const parent = dirname(absolute)
  if (parent === absolute) return absolute
  const isLink = await lstat(absolute)
    .then((there) => there.isSymbolicLink())
    .catch(() => false)
  return isLink ? absolute : join(await realLocation(parent), basename(absolute))
}

function isWithin(inner: string, outer: string): boolean {
  const way = relative(outer, inner)
  return (
    way === '' ||
    (!way.startsWith(`..${sep}`) &&
      way !== '..' &&
      resolve(outer, way) === inner &&
      !/^[A-Za-z]:/.test(way))
  )
}
