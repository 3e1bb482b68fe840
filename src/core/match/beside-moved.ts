import { OLD, triple } from '../document/sides.ts'
import type { Triple } from '../document/sides.ts'
import type { Doc } from '../formats/doc.ts'
import type { Identities } from '../identity/identities.ts'
import type { Changed } from './links.ts'
import type { ByName, Placed } from './placer.ts'
import { Placer } from './placer.ts'

/** Where so many others went the same way, what was moved is all of them, and not this one that may be another. */
const LEAST_OTHERS = 2

/** What became of the entries beside one that a side put into another container. */
export class BesideMoved {
  private readonly placed: Triple<() => ByName>
  /** Of each way from one container to another, how many entries went it. */
  private readonly gone = new Map<string, number>()

  constructor(docs: Triple<Doc>, identities: Identities) {
    // with any text here the placer finds what nothing names by what it holds
    const all = { ids: 'all', names: 'all', dropped: new Set(['']) } as const
    this.placed = triple((side) => {
      let found: ByName | undefined
      return () => (found ??= new Placer(docs[side], identities, all).run())
    })
  }

  /** Whether two others at least that stood beside an entry of old went where it went. */
  haveGone(side: Changed, old: Placed, now: Placed): boolean {
    const way = `${side}\0${old.container}\0${now.container}`
    let gone = this.gone.get(way)
    if (gone === undefined) {
      gone = this.countGone(side, old.container, now.container)
      this.gone.set(way, gone)
    }
    return gone > LEAST_OTHERS
  }

  /** How many entries that nothing else is taken for went from one container to another. */
  private countGone(side: Changed, from: string, to: string): number {
    const after = this.placed[side]()
    const isAlone = (all: readonly Placed[] = [], container: string): boolean =>
      all.length === 1 && all[0]?.container === container
    let gone = 0
    for (const [name, before] of this.placed[OLD]())
      if (isAlone(before, from) && isAlone(after.get(name), to)) gone++
    return gone
  }
}
