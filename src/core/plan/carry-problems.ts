import type { Doc } from '../formats/doc.ts'
import type { Side, Triple } from '../document/sides.ts'
import { MINE, NEW, OLD, SIDE_NAMES } from '../document/sides.ts'
import type { DormantEntry } from '../match/dormant.ts'
import type { MissingNumber, UnevenLists } from './in-step.ts'
import type { InputProblem } from './telling.ts'
import { shownValue } from '../formats/shown-value.ts'

/** As much of a comment as a note quotes. */
const MOST_QUOTED = 2000

export const carryProblems = {
  /** A comment that is not in the result, or stands there without the entry that it was about. */
  commentQuoted(doc: Doc, comment: number, side: Side): InputProblem {
    const text = doc.commentText(comment)
    const quoted = text.length > MOST_QUOTED ? `${text.slice(0, MOST_QUOTED)}…` : text
    const mine = side === MINE
    return {
      severity: 'note',
      code: mine ? 'carry/comment-of-removed' : 'carry/comment-not-taken',
      message: mine
        ? `your comment belonged to what vanilla removed, moved or replaced: ${quoted}`
        : `vanilla's comment is not in the result: ${quoted}`,
      span: { start: doc.tree.start(comment), end: doc.tree.end(comment) },
      input: SIDE_NAMES[side],
      ...(mine ? {} : { lost: text }),
    }
  },

  /** A default that stands commented out in vanilla's files, and that mine has live. */
  defaultChanged(
    docs: Triple<Doc>,
    key: string,
    old: DormantEntry,
    fresh: DormantEntry | undefined,
  ): InputProblem {
    const side = fresh === undefined ? OLD : NEW
    const { tree } = docs[side]
    const { first, last } = fresh ?? old
    const was = shownValue(old.doc, old.node)
    return {
      severity: 'note',
      code: 'carry/default-changed',
      message:
        fresh === undefined
          ? `you have ${key} live; old shipped it commented out (${was}), new has it no more`
          : `you have ${key} live; vanilla ships it commented out, now ${shownValue(fresh.doc, fresh.node)} and no longer ${was}`,
      span: { start: tree.start(first), end: tree.end(last) },
      input: SIDE_NAMES[side],
    }
  },

  /** Vanilla made live what mine had commented out with another value: that is not in the result. */
  dormantReplaced(
    doc: Doc,
    key: string,
    { first, last, doc: read, node }: DormantEntry,
  ): InputProblem {
    return {
      severity: 'note',
      code: 'carry/dormant-replaced',
      message: `vanilla has made ${key} live; you had it commented out with other content: ${shownValue(read, node)}`,
      span: { start: doc.tree.start(first), end: doc.tree.end(last) },
      input: SIDE_NAMES[MINE],
    }
  },

  orderKept(doc: Doc, node: number, keys: readonly string[]): InputProblem {
    const some =
      keys.slice(0, 3).join(', ') + (keys.length > 3 ? ` and ${keys.length - 3} more` : '')
    return {
      severity: 'note',
      code: 'carry/order-kept',
      message: `you and vanilla re-ordered these entries differently; your order stands (vanilla moved ${some})`,
      span: { start: doc.tree.start(node), end: doc.tree.end(node) },
      input: SIDE_NAMES[NEW],
    }
  },

  otherCase(doc: Doc, node: number, vanilla: string): InputProblem {
    return {
      severity: 'warning',
      code: 'carry/other-capitals',
      message: `${doc.name(node)} is ${vanilla} in vanilla; they are taken for one`,
      span: spanOfName(doc, node),
      hint: 'write it as vanilla does, if the game tells capitals apart',
      input: SIDE_NAMES[MINE],
    }
  },

  /** An entry that one side gave another name, and that was known again all the same. */
  takenForOne(doc: Doc, node: number, was: string, now: string, side: Side): InputProblem {
    return {
      severity: 'note',
      code: 'carry/taken-for-one',
      message: `taken for one: ${was} is now ${now}`,
      span: spanOfName(doc, node),
      input: SIDE_NAMES[side],
    }
  },

  /** Entries whose number says nothing, or nothing sure, of which they are, since a side numbered them anew. */
  numberedAnew(
    doc: Doc,
    node: number,
    place: string,
    counter: string,
    isSure: boolean,
  ): InputProblem {
    const entries = place === '' ? 'the entries' : `the entries of ${place}`
    return {
      severity: 'note',
      code: 'carry/numbered-anew',
      message: isSure
        ? `${entries} have other numbers (${counter}) than before; they are told by what else they hold`
        : `${entries} may have other numbers (${counter}) than before, so that which is which is not known`,
      span: spanOfName(doc, node),
      hint: `if ${counter} names them all the same, say so under identity: in anagnosis.yaml`,
      input: SIDE_NAMES[MINE],
    }
  },

  /** An entry that both dropped, and what one of them may have made of it: it stands as it came. */
  perhapsRenamed(doc: Doc, node: number, was: string, now: string, side: Side): InputProblem {
    return {
      severity: 'note',
      code: 'carry/perhaps-renamed',
      message: droppedWhere(side, was, now, 'is much like it'),
      span: spanOfName(doc, node),
      hint: 'if the two are one, see which the result is to have',
      input: SIDE_NAMES[side],
    }
  },

  /** An entry that one side dropped, where the other has put the same into an entry of its own. */
  standsInside(doc: Doc, node: number, was: string, now: string, side: Side): InputProblem {
    return {
      severity: 'note',
      code: 'carry/stands-inside',
      message: droppedWhere(side, was, now, 'holds the same: it stands there'),
      span: spanOfName(doc, node),
      hint: 'if it was to go, drop it there, too',
      input: SIDE_NAMES[side],
    }
  },

  /** A key that both dropped, one of them only since it gave what it is of another number. */
  renumbered(doc: Doc, node: number, was: string, now: string, side: Side): InputProblem {
    return {
      severity: 'note',
      code: 'carry/other-number',
      message: `${was} stands nowhere now, but ${now} has on one side what old has there`,
      span: spanOfName(doc, node),
      hint: 'if it was to go, drop it there',
      input: SIDE_NAMES[side],
    }
  },

  /** A key that both changed in the same way, one of them only since it gave what it is of another number. */
  alikeByChance(doc: Doc, node: number, was: string, now: string | undefined): InputProblem {
    const where = now === undefined ? 'stands nowhere now' : `stands at ${now} now`
    return {
      severity: 'note',
      code: 'carry/other-number',
      message: `both changed ${was} in the same way, but what old has there ${where}`,
      span: spanOfName(doc, node),
      hint: 'if you changed what stands there now, change it there, too',
      input: SIDE_NAMES[MINE],
    }
  },

  /** An entry that one side moved to another container, and that the other side's edits followed. */
  movedAway(doc: Doc, node: number, was: string, now: string, side: Side): InputProblem {
    const whose = side === MINE ? "vanilla's changes" : 'your edits'
    return {
      severity: 'note',
      code: 'carry/moved-away',
      message: `${was} stands at ${now} now; ${whose} in it went there`,
      span: spanOfName(doc, node),
      input: SIDE_NAMES[side],
    }
  },

  /** An entry that nothing names and that both added, at different places. */
  addedApart(doc: Doc, node: number, key: string): InputProblem {
    return {
      severity: 'note',
      code: 'carry/added-apart',
      message: `you and vanilla both added ${key}, the same at different places: it stands once, where yours does`,
      span: spanOfName(doc, node),
      hint: 'if both are meant, add the other, too',
      input: SIDE_NAMES[MINE],
    }
  },

  /** An entry that one side added to others, of which the other side has none there now. */
  leftBehind(doc: Doc, node: number, key: string, side: Side): InputProblem {
    const message =
      side === MINE
        ? `you added ${key}, and vanilla has no other of its kind there now; yours stands there all the same`
        : `vanilla added ${key}, and you have no other of its kind there; vanilla's stands there all the same`
    return {
      severity: 'note',
      code: 'carry/added-alone',
      message,
      span: spanOfName(doc, node),
      hint: 'the others may stand elsewhere now, or have another name: see whether this one belongs there, too',
      input: SIDE_NAMES[side],
    }
  },

  /** A container that one side put around entries. */
  wrapped(doc: Doc, node: number, key: string, side: Side): InputProblem {
    const message =
      side === MINE
        ? `you have put entries into ${key}; vanilla's changes in them, and what vanilla added beside them, went there`
        : `vanilla has put entries into ${key}; your edits in them, and what you added beside them, went there`
    return {
      severity: 'note',
      code: 'carry/wrapped',
      message,
      span: spanOfName(doc, node),
      input: SIDE_NAMES[side],
    }
  },

  /** An entry that one side moved to another container, and that the other side had dropped. */
  droppedAway(doc: Doc, node: number, was: string, now: string, side: Side): InputProblem {
    const message =
      side === MINE
        ? `you have moved ${was} to ${now}; vanilla removed it, so the result has it no more`
        : `vanilla has moved ${was} to ${now}; you had removed it, so the result has it no more`
    return {
      severity: 'note',
      code: 'carry/dropped-away',
      message,
      span: spanOfName(doc, node),
      input: SIDE_NAMES[side],
    }
  },

  /** Lists that were as long as one another in each file, and are not in the result. */
  unevenLists(doc: Doc, node: number, { names, lengths }: UnevenLists): InputProblem {
    return {
      severity: 'note',
      code: 'carry/out-of-step',
      message: `${inWords(names)} are as long as one another in old, new and yours, but now have ${inWords(lengths)} entries`,
      span: spanOfName(doc, node),
      hint: 'compare them by hand: a value may stand beside what it does not belong to',
      input: SIDE_NAMES[MINE],
    }
  },

  /** A number that the result lacks, though the numbers ran on in each file, or two names stood together. */
  missingNumber(doc: Doc, node: number, { lacks, has }: MissingNumber): InputProblem {
    return {
      severity: 'note',
      code: 'carry/out-of-step',
      message: `the result has ${has} but no ${lacks}: in old, new and yours neither stands without the other`,
      span: spanOfName(doc, node),
      hint: 'see whether what has the number is to go, or to get another number: a game that counts may stop at the gap',
      input: SIDE_NAMES[MINE],
    }
  },

  duplicateKey(
    doc: Doc,
    [node, first]: readonly [number, number],
    side: Side,
    key: string,
  ): InputProblem {
    return {
      severity: 'warning',
      code: 'carry/duplicate-key',
      message: `${key} is there twice`,
      span: spanOfName(doc, node),
      hint: 'the two are matched in their order; keep one of them',
      related: { span: spanOfName(doc, first), message: 'the first stands here' },
      input: SIDE_NAMES[side],
    }
  },
}

/** Several things as a list in words: `a, b and c`. */
function inWords(all: readonly (string | number)[]): string {
  return [all.slice(0, -1).join(', '), ...all.slice(-1)].filter((each) => each !== '').join(' and ')
}

/** Where the name of an entry stands, and what comes before it. */
function spanOfName({ tree }: Doc, node: number): { start: number; end: number } {
  return { start: tree.start(node), end: tree.nameEnd(node) }
}

/** That an entry was dropped where the other side has one of its own. @param side whose that is */
function droppedWhere(side: Side, was: string, now: string, what: string): string {
  return side === MINE
    ? `vanilla dropped ${was}, and your ${now} ${what}`
    : `you dropped ${was}, and vanilla's new ${now} ${what}`
}
