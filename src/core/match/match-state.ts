import type { Side } from '../document/sides.ts'
import { triple } from '../document/sides.ts'
import { surely } from '../document/surely.ts'
import type { Known } from '../identity/known.ts'
import type { Aligner } from '../likeness/align.ts'
import type { Token } from '../likeness/only-ones.ts'
import { Alike } from './alike.ts'
import { Links } from './links.ts'
import type { Items, TellApart } from './tell-apart.ts'

/** The items of a list that no strong identity tells: their ranks, and what they are equal by. */
export interface Loose {
  ranks: readonly number[]
  tokens: readonly Token[]
}

/** What the steps of one matching work on; what only some of them ask for is made when they do. */
export class MatchState {
  readonly links: Links
  private readonly knownTokens: (readonly Token[] | undefined)[] = []
  private readonly knownWhole: (readonly Token[] | undefined)[] = []
  private knownAlike: Alike | undefined

  constructor(
    readonly told: TellApart,
    private readonly known: Known,
    private readonly siblings: (() => Items) | undefined,
    readonly aligner: Aligner,
  ) {
    this.links = unlinked(told)
  }

  /** The same lists, with nothing linked. */
  anew(): MatchState {
    return new MatchState(this.told, this.known, this.siblings, this.aligner)
  }

  /** What the items of a document are equal by: what they are told by, else their value without a number given anew. */
  tokens(side: Side): readonly Token[] {
    const { told } = this
    return (this.knownTokens[side] ??= told.items[side].map(
      (item, at) => told.id(side, at) ?? told.content(side, at, item).id,
    ))
  }

  /** The same with such a number. */
  whole(side: Side): readonly Token[] {
    const { told } = this
    return (this.knownWhole[side] ??= told.items[side].map(
      (item, at) => told.id(side, at) ?? item.value.id,
    ))
  }

  loose(side: Side): Loose {
    const ranks = [...this.told.items[side].keys()].filter((at) => !this.told.isStrong(side, at))
    const all = this.tokens(side)
    return { ranks, tokens: ranks.map((at): Token => surely(all[at])) }
  }

  get alike(): Alike {
    return (this.knownAlike ??= new Alike(this.told, this.known, this.siblings))
  }
}

/** The items of a list before any are linked. */
export function unlinked(told: TellApart): Links {
  return new Links(
    triple((side) => told.items[side].length),
    (side, at) => told.name(side, at),
  )
}
