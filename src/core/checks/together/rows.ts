import type { FileReport } from '../../report/report.ts'

/** Who made what stands in the result. */
export type Maker = 'vanilla' | 'mine'

/** A key of the result that one side made, and what stands there in the three inputs. */
export interface MadeKey {
  path: string
  key: string
  maker: Maker
  kind: 'added' | 'removed' | 'changed' | 'renamed'
  /** The old key, of what was renamed. */
  was: string | undefined
  old: string | null
  new: string | null
  mine: string | null
  result: string | null
}

/** What one side alone made of a file. Where both sides changed a key mine stands, as long as nobody decides. */
export function madeKeys({ path, changes, conflicts }: FileReport): MadeKey[] {
  const made: MadeKey[] = []
  for (const { key, side, kind, was, old, new: fresh, mine, result } of changes) {
    if (side === 'both' || kind === 'moved') continue
    made.push({ path, key, maker: side, kind, was, old, new: fresh, mine, result })
  }
  for (const { key, old, new: fresh, mine, result } of conflicts) {
    if (old !== null && mine !== null && fresh !== null)
      made.push({
        path,
        key,
        maker: 'mine',
        kind: 'changed',
        was: undefined,
        old,
        new: fresh,
        mine,
        result,
      })
  }
  return made
}

/** The other side. */
export function otherOf(maker: Maker): Maker {
  return maker === 'mine' ? 'vanilla' : 'mine'
}

/** The values that a change left in the result: the value itself of a key, all of an entry. */
export function valuesMade({ kind, result }: MadeKey): Iterable<string> {
  if (result === null) return []
  return kind === 'changed' ? [result] : valuesIn(result)
}

/** The values that a source text of an entry seems to hold: what stands in quotes, between tags, behind a `=`. */
function valuesIn(source: string): Set<string> {
  const values = new Set([source.trim()])
  for (const [, quoted, single, text, value] of source.matchAll(
    /"([^"\n]*)"|'([^'\n]*)'|>([^<>\n]+)<|[=:]\s*([^\s"',;{}[\]<>]+)/g,
  ))
    values.add((quoted ?? single ?? text ?? value ?? '').trim())
  return values
}
