import { areNames, candidates, customaryRank, isCustomary, isId, pairsOf } from './candidates.ts'
import type { Candidate } from './partners.ts'
import { Comparison } from './comparison.ts'
import type { IdentityExpression } from './expression.ts'
import { parseIdentity, untoldAmong } from './expression.ts'
import type { Found } from './finder.ts'
import { findPartly } from './finder.ts'
import { Judge } from './judge.ts'
import type { Known } from './known.ts'
import { isNumbered } from './numbers.ts'
import type { SiblingGroups } from './siblings.ts'
import { Siblings } from './siblings.ts'

/** From so many entries of the first document on a name that is not customary may be the identity. */
const LEAST_ENTRIES = 3

/** What tells the entries of one place apart. */
export interface Inferred {
  identity: IdentityExpression
  /** The entries of each document that has any by it; undefined where it is kept from an earlier carry. */
  perDocument?: readonly Found[] | undefined
  /** Whether it has a customary name, so that its author meant it to name entries. */
  isStrong: boolean
  /** Whether it is a number, and a side may have numbered the entries anew. */
  isDoubtful?: boolean
}

/** The identity of a place, or why there is none. */
export interface Inference {
  inferred?: Inferred | undefined
  /** Where entries have a number that a side gave anew, so that it says nothing of which is which. */
  counter?: string | undefined
}

/**
 * The identity that tells the entries of one place apart in all documents. A candidate is on half of the
 * siblings and unique among them in each document that has any, slips aside; then candidates fall that
 * pair the first document's entries otherwise than likeness does, or that find far fewer again than another.
 * Where none stands, an id still tells those that have one of their own.
 *
 * @param docs old first, where there is an old
 * @param before what told them in an earlier carry: where it still does nothing else is chosen
 */
export function inferIdentity(
  docs: Siblings['docs'],
  groups: readonly SiblingGroups[],
  known: Known,
  before?: string,
): Inference {
  const siblings = new Siblings(docs, groups)
  if (siblings.most === 0) return {}
  const judge = new Judge(new Comparison(siblings, known))
  const kept = before === undefined ? undefined : stillTells(before, siblings, judge)
  if (kept?.isNumbered === false) return { inferred: kept }
  // most authors call it by a customary name, and then nothing else has to be looked up
  const all = candidates(siblings)
  const names = all.filter(isCustomary).sort((a, b) => customaryRank(a) - customaryRank(b))
  const customary: Candidate[] = []
  let isFirst = false
  for (const name of names) {
    const [held] = judge.holding([name])
    if (held === undefined) continue
    customary.push(held)
    // a name that comes before it may only have fallen
    if (customary.length > 1 || !judge.isBeyondDoubt(held)) continue
    isFirst = true
    if (!isNumbered(held)) break
  }
  const [first] = customary
  if (isFirst && first !== undefined && judge.isAsNumbered(first, customary))
    return { inferred: kept ?? chosen(first) }
  // what both filled is one only where it is equal: no chance is to pair it
  const isTold = (siblings.count(0) || siblings.most) >= LEAST_ENTRIES && !judge.isWithoutOld()
  const singles = isTold ? all : []
  const held = [...customary, ...judge.holding(singles.filter((text) => !isCustomary(text)))]
  const verdict = judge.best(held)
  if (kept !== undefined && verdict.counter !== kept.identity.text) return { inferred: kept }
  const { best, counter, isDoubtful } = verdict
  if (best !== undefined) return { inferred: chosen(best, isDoubtful), counter }
  if (held.length > 0) return { counter }
  const pair = singles.length === 0 ? {} : judge.best(judge.holding(pairsOf(singles, siblings)))
  const last = pair.best ?? partialId(names, siblings)
  return last === undefined ? {} : { inferred: chosen(last) }
}

/** What told entries apart before, where it still tells most of them in each document. */
function stillTells(
  text: string,
  { docs, groups }: Siblings,
  judge: Judge,
): (Inferred & { isNumbered: boolean }) | undefined {
  const identity = parseIdentity(text)
  const tells = docs.every((doc, d) => {
    const siblings = groups[d] ?? []
    return untoldAmong(doc, siblings, identity) * 2 <= siblings.flat().length
  })
  if (!tells) return undefined
  const [held] = judge.holding([text])
  const mayBeNumbered = held !== undefined && isNumbered(held)
  return { identity, isStrong: isCustomary(text), isNumbered: mayBeNumbered }
}

/**
 * An id that most siblings lack or share: it names those that have it alone, unless it is a number. Where half of a
 * document's entries have one and none of another's, a side may have given ids to entries that had none.
 */
function partialId(names: readonly string[], siblings: Siblings): Candidate | undefined {
  const first = names.find(isId)
  if (first === undefined) return undefined
  const identity = parseIdentity(first)
  const held = findPartly(identity, siblings)
  const shares = held
    .map(({ values }, d) => ({ named: values.length, all: siblings.count(d) }))
    .filter(({ all }) => all > 0)
  const isGiven =
    shares.some(({ named }) => named === 0) && shares.some(({ named, all }) => named * 2 >= all)
  const areTold = !isGiven && held.every(({ values }) => areNames(values))
  return areTold ? { identity, held } : undefined
}

function chosen({ identity, held }: Candidate, isDoubtful = false): Inferred {
  return { identity, perDocument: held, isStrong: isCustomary(identity.text), isDoubtful }
}
