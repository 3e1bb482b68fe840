import { asNumber } from '../core/document/as-number.ts'
import type { Triple } from '../core/document/sides.ts'
import { PAIRS } from '../core/document/sides.ts'
import type { Conflict } from '../core/report/ledger.ts'
import type { Paint } from './paint.ts'
import { apart, oneLine } from './text.ts'

/** What both sides did to a key, in the units of its value. */
export function conflictSentence(conflict: Conflict & { unread?: true }, paint: Paint): string {
  if (conflict.unread === true)
    return 'The file cannot be read as its format. Yours stands as it is, until you say whose is right.'
  const [inOld, inNew, inMine] = threeApart([conflict.old, conflict.new, conflict.mine])
  const old = said(inOld)
  const fresh = paint.vanilla(said(inNew))
  const mine = paint.mine(said(inMine))
  switch (conflict.kind) {
    case 'two-values':
      if (conflict.old === conflict.mine)
        return `Vanilla changed it from ${old} to ${fresh}. You moved it.${shiftedWords(conflict)}`
      if (conflict.new === conflict.mine)
        return `Both changed it from ${old} to ${fresh}, in different places.`
      return `Vanilla ${move(conflict, old, fresh)}. You have ${mine}${asMultiple(conflict)}.${shiftedWords(conflict)}`
    case 'gone-in-vanilla':
      if (conflict.old === null && conflict.at.old === null && conflict.key !== '') {
        return conflict.perhaps === undefined
          ? 'You have it and vanilla has not: your own, or dropped by vanilla?'
          : `You put it in.${shiftedWords(conflict)}`
      }
      if (conflict.perhaps !== undefined && conflict.old === conflict.mine)
        return `Vanilla dropped it, and you have it at ${keyNow(conflict.perhaps)} now. Is yours to stay?`
      return `Vanilla ${wentWords(conflict.at.new)}, but you had changed it${innerWords(conflict, paint.mine)}.${perhapsWords(conflict)}`
    case 'gone-in-mine':
      if (conflict.old === null && conflict.at.old === null && conflict.key !== '') {
        return conflict.perhaps === undefined
          ? 'Vanilla has it and you have not: new, or dropped by you?'
          : `Vanilla put it in.${shiftedWords(conflict)}`
      }
      if (conflict.perhaps !== undefined && conflict.old === conflict.new)
        return `You have it here no more, and vanilla has it at ${keyNow(conflict.perhaps)} now. Is vanilla's to stay?`
      return `You ${wentWords(conflict.at.mine)}, but vanilla has changed it since${innerWords(conflict, paint.vanilla)}.${perhapsWords(conflict)}`
    case 'two-new':
      return `Old has none of it; vanilla has ${fresh}, you have ${mine}.`
    case 'shape':
      return `It is of another shape: ${old} in old, ${fresh} in new. You have ${mine}.`
    case 'order':
      return 'Both re-ordered it, differently.'
    case 'lines':
      return `Both rewrote this differently: vanilla has ${fresh}, you have ${mine}.`
    case 'file':
      return isOfKinds(conflict)
        ? `Both changed what stands here: ${thing(conflict.old)} in old, ${thing(conflict.new)} in new. You have ${thing(conflict.mine)}.`
        : 'Both changed this file, and it has no keys to merge by.'
  }
}

/** How an entry went from a document; what stands there in comments has a place. */
function wentWords(place: Conflict['at']['new']): string {
  return place === null ? 'dropped it' : 'commented it out'
}

/** Whether there is a link or a folder in one of the inputs: then it is told what stands in each. */
function isOfKinds({ old, new: fresh, mine }: Conflict): boolean {
  const isOther = (value: string | null): boolean =>
    value === 'a folder' || value?.startsWith('a link to ') === true
  return [old, fresh, mine].some(isOther)
}

function thing(value: string | null): string {
  return value === null ? 'a file' : shown(value)
}

/** What both sides did to keys that are decided as one: `least was 1: 2 in new, 1 in yours`. */
export function tiedSentence(conflicts: readonly Conflict[], paint: Paint): string {
  const words = conflicts.map(({ key, old, new: fresh, mine }) => {
    const name = oneLine(key.slice(key.lastIndexOf('/') + 1), 30)
    const [inOld, inNew, inMine] = threeApart([old, fresh, mine])
    return `${name} was ${said(inOld)}, is ${paint.vanilla(said(inNew))} in new, ${paint.mine(said(inMine))} in yours`
  })
  return `Decided as one: ${words.join('; ')}.`
}

/** So many characters of a value stand in a sentence. */
const MOST_SHOWN = 48

/** Three values, cut so that each two that differ are seen to differ: mine from new, where not all do so at one place. */
function threeApart(values: Triple<string | null>): Triple<string | null> {
  const [old, fresh, mine] = values
  const [inOld = null, inNew = null, inMine = null] = apart(values, MOST_SHOWN)
  const cut = [inOld, inNew, inMine] as const
  if (PAIRS.every(([a, b]) => values[a] === values[b] || cut[a] !== cut[b])) return cut
  const [from = null, to = null] = apart([old, fresh], MOST_SHOWN)
  return [from, to, apart([fresh, mine], MOST_SHOWN)[1] ?? null]
}

function shown(value: string | null): string {
  return said(apart([value], MOST_SHOWN)[0])
}

function said(value: string | null | undefined): string {
  if (value === null || value === undefined) return 'nothing'
  return value === '' ? 'empty' : value
}

/** What an entry that one side dropped may be there. */
function perhapsWords({ perhaps }: Conflict): string {
  if (perhaps === undefined) return ''
  return ` Perhaps it is ${keyNow(perhaps)} now.`
}

/** Where what one side had under a name that only numbers it stands now. */
function shiftedWords({ perhaps }: Conflict): string {
  if (perhaps === undefined) return ''
  return ` What old has here stands at ${keyNow(perhaps)} now.`
}

function keyNow({ path, key }: NonNullable<Conflict['perhaps']>): string {
  return oneLine(key ?? path, 60)
}

/** What was changed in an entry, as far as it fits: `: worth from 60 to 75 and 2 more`. */
function innerWords({ inside = [] }: Conflict, colour: (text: string) => string): string {
  const words = inside.slice(0, 2).map(({ path, from, to }) => {
    const name = path === '' ? '' : `${oneLine(path.replace(/\//g, ' '), 40)} `
    const [was, is] = apart([from, to], MOST_SHOWN).map(said)
    return `${name}from ${was} to ${colour(is ?? '')}`
  })
  if (words.length === 0) return ''
  const rest = inside.length - words.length
  return `: ${words.join(', ')}${rest > 0 ? ` and ${rest} more` : ''}`
}

function move(conflict: Conflict, old: string, fresh: string): string {
  if (conflict.old === conflict.new) return 'moved it'
  const from = asNumber(conflict.old)
  const to = asNumber(conflict.new)
  if (from === undefined || to === undefined || from === to)
    return `changed it from ${old} to ${fresh}`
  return `${to > from ? 'raised' : 'lowered'} it from ${old} to ${fresh}${inProportion(from, to)}`
}

function inProportion(from: number, to: number): string {
  const share = from === 0 ? 0 : to / from
  const words: Record<string, string> = {
    '2': 'twice as much',
    '1.5': 'half as much again',
    '0.5': 'half',
  }
  const word =
    words[String(share)] ?? (Number.isInteger(share) && share > 2 ? `${share} times` : undefined)
  return word === undefined ? '' : ` (${word})`
}

const TIMES = ['', '', 'twice', 'three times', 'four times', 'five times', 'six times']

function asMultiple(conflict: Conflict): string {
  const from = asNumber(conflict.old)
  const to = asNumber(conflict.mine)
  if (from === undefined || to === undefined || from === 0) return ''
  const times = to / from
  if (!Number.isInteger(times) || times < 2 || times > 100) return ''
  return `, ${TIMES[times] ?? `${times} times`} the old value`
}
