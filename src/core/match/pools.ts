import { gather } from '../document/gather.ts'
import { Kind } from '../document/kind.ts'
import type { Side } from '../document/sides.ts'
import { OLD } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import type { TellApart } from './tell-apart.ts'

/** Of an entry: among which others one is looked for that may be the same under another name. */
type PoolOf = (told: TellApart, side: Side, at: number) => string | undefined

/** The entries of a document that are meant, by their pools. */
export function byPool(
  told: TellApart,
  side: Side,
  isFree: (at: number) => boolean,
  poolOf: PoolOf,
): Map<string, number[]> {
  const pools = new Map<string, number[]>()
  for (const at of told.items[side].keys()) {
    const pool = isFree(at) ? poolOf(told, side, at) : undefined
    if (pool !== undefined) gather(pools, pool, at)
  }
  return pools
}

/** Of an entry that is told by a name of its own: among which others that may have changed. */
export function ownPool(told: TellApart, side: Side, at: number): string | undefined {
  if (told.id(side, at) === undefined) return undefined
  const item = surely(told.items[side][at])
  const isNamed = told.meansOf(side, at).by === 'identity'
  const isMapping =
    item.kind === Kind.Section ||
    (item.kind === Kind.Member && item.value.parts[0]?.kind === Kind.Object)
  return isNamed || isMapping ? told.pool(item) : undefined
}

/** Where the names stand by which entries are told apart, as identities name that. */
export function identityPaths(told: TellApart, at: number): string[] {
  const means = told.meansOf(OLD, at)
  return means.by === 'identity' ? means.identity.parts.map((path) => path.join('/')) : []
}

/** The name of an entry, or what its identity says. */
export function nameOf(told: TellApart, side: Side, at: number): string | undefined {
  const item = surely(told.items[side][at])
  const means = told.meansOf(side, at)
  return means.by === 'identity' ? item.identity(means.identity) : item.name
}
