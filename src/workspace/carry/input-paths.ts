import { lstat, realpath } from 'node:fs/promises'
import { basename, dirname, join, resolve } from 'node:path'
import type { InputName } from '../../core/plan/telling.ts'
import { EXIT, Failure } from '../failure.ts'
import { isInside } from '../paths.ts'

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

/** Inputs of which some are files and some folders. */
export function mixedKinds(
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

/**
 * Refuses an output that lies in an input, or that an input lies in.
 *
 * @param names the inputs that are paths
 */
export async function refuseOverlap(paths: CarryPaths, names: readonly InputName[]): Promise<void> {
  const out = await realLocation(paths.out)
  for (const name of names) {
    const input = await realLocation(paths[name])
    const how = isInside(out, input) ? 'lies in' : isInside(input, out) ? 'lies over' : undefined
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
