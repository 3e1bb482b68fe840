import type { Triple } from '../document/sides.ts'
import { everyKey } from '../plan/every-key.ts'
import type { Decision } from '../plan/decide.ts'
import type { Conflict } from '../report/ledger.ts'
import { standsAt } from '../report/explained.ts'
import type { CarriedText } from './carry-text.ts'
import { carryText } from './carry-text.ts'
import type { CarryOptions, ReadDocuments } from './plan-texts.ts'
import type { Recalled, Remembered } from '../report/remembered.ts'
import { isFor } from '../report/remembered.ts'
import type { Tune } from './tune.ts'
import { carryTuned } from './tune.ts'

/** A carry in which remembered decisions are applied, and what became of each. */
export interface CarriedDecided {
  carried: CarriedText
  recalled: Recalled
}

/** What rows say of what a decision made. */
const BY = 'decision'

/**
 * Carries a text, and applies what was decided before wherever the same three values meet again: at a
 * conflict of the same name, and at any other key by setting its value.
 */
export function carryDecided(
  texts: Triple<string | undefined>,
  options: CarryOptions,
  remembered: readonly Remembered[],
): CarriedDecided {
  let planned: ReadDocuments | undefined
  const open = carryText(texts, {
    ...options,
    inspect: (each) => {
      planned = each
      options.inspect?.(each)
    },
  })
  const recalled: Recalled = { applied: [], earlier: [], notApplied: [] }
  if (remembered.length === 0 || planned === undefined || open.text === undefined)
    return { carried: open, recalled }
  const decisions = new Map<Remembered, Decision>()
  const others: Remembered[] = []
  for (const each of remembered) {
    const conflict = open.conflicts.find(({ key }) => key === each.key)
    if (conflict === undefined) others.push(each)
    else if (isOf(each, conflict)) decisions.set(each, decisionOf(each))
    else recalled.earlier.push(each)
  }
  refuseBreaking(texts, options, decisions, recalled)
  const tunes = tunesOf(others, planned, recalled)
  if (decisions.size + tunes.length === 0) return { carried: open, recalled }
  const { carried, refused } = carryTuned({
    texts,
    options: { ...options, decisions: [...decisions.values()] },
    planned,
    tunes,
  })
  for (const { decision, why } of refused) recalled.notApplied.push({ decision, why })
  const isRefused = new Set(refused.map(({ decision }) => decision))
  const failed = new Map([
    ...carried.conflicts.map(({ key }) => [key, 'it could not be decided so'] as const),
    ...(carried.notApplied ?? []).map(({ key, why }) => [key, why] as const),
  ])
  for (const decision of decisions.keys()) {
    const why = failed.get(decision.key)
    if (why === undefined) recalled.applied.push(decision)
    else recalled.notApplied.push({ decision, why })
  }
  for (const { decision } of tunes) if (!isRefused.has(decision)) recalled.applied.push(decision)
  return { carried, recalled }
}

/** Takes those decisions out with which the file could not be read. */
function refuseBreaking(
  texts: Triple<string | undefined>,
  options: CarryOptions,
  decisions: Map<Remembered, Decision>,
  recalled: Recalled,
): void {
  const isRead = (each: readonly Decision[]): boolean =>
    carryText(texts, { ...options, decisions: each }).text !== undefined
  const sources = [...decisions.keys()].filter(({ take }) => take === 'source')
  if (sources.length === 0 || isRead([...decisions.values()])) return
  const good = [...decisions].filter(([{ take }]) => take !== 'source').map(([, each]) => each)
  for (const source of sources) {
    const decision = decisions.get(source)
    if (decision !== undefined && isRead([...good, decision])) good.push(decision)
    else {
      decisions.delete(source)
      recalled.notApplied.push({ decision: source, why: 'with this text the file cannot be read' })
    }
  }
}

function isOf(remembered: Remembered, conflict: Conflict): boolean {
  return remembered.id === undefined ? isFor(remembered, conflict) : remembered.id === conflict.id
}

function decisionOf({ key, take, value = '' }: Remembered): Decision {
  switch (take) {
    case 'vanilla':
    case 'mine':
    case 'both':
      return { key, by: BY, take }
    case 'value':
    case 'source':
      return { key, by: BY, take, text: value }
    case 'onto':
      return { key, by: BY, take, to: value }
  }
}

/** Whether mine has what was decided, as text or as it stands in the source. */
function isFulfilled({ take, value }: Remembered, mine: string | null): boolean {
  if (mine === null || value === undefined || (take !== 'value' && take !== 'source')) return false
  return mine === value || mine === value.replace(/^(["'])(.*)\1$/s, '$2')
}

/** What is to be set at keys that are not in question, where the same values stand there as then. */
function tunesOf(
  others: readonly Remembered[],
  { docs, present, identities }: ReadDocuments,
  recalled: Recalled,
): Tune[] {
  if (others.length === 0) return []
  const waiting = new Map(others.map((each) => [each.key, each]))
  const tunes: Tune[] = []
  for (const { key, nodes } of everyKey(docs, present, identities)) {
    const decision = waiting.get(key)
    if (decision === undefined) continue
    waiting.delete(key)
    const values = standsAt(docs, nodes)
    if (isFor(decision, values)) tunes.push({ decision, nodes, values, by: BY })
    // what was decided was put live since: there is nothing left to do, and nothing to say
    else if (!isFulfilled(decision, values.mine))
      recalled.notApplied.push({ decision, why: 'other values stand there now' })
  }
  for (const decision of waiting.values())
    recalled.notApplied.push({ decision, why: 'no input has this key now' })
  return tunes
}
