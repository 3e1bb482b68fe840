import { isBlank, SPACE } from '../../document/characters.ts'
import type { Problem } from '../../document/problem.ts'
import { CHARACTER_REFERENCE, EntityJudge, isAllowedCodePoint } from './grammar.ts'
import { skipName } from './names.ts'
import { xmlProblems } from './problems.ts'

const AMPERSAND = 38
const HASH = 35
const BRACKET = 93

const NO_ENTITIES = new EntityJudge(new Map())

/** Checks characters and references; every method takes an offset and gives the one to go on from. */
export class XmlCharacters {
  /** Judges references to entities; undefined where a DOCTYPE may declare them elsewhere. */
  entities: EntityJudge | undefined = NO_ENTITIES
  private readonly end: number

  constructor(
    private readonly source: string,
    private readonly report: (problem: Problem) => void,
  ) {
    this.end = source.length
  }

  /** A code unit of text that may be wrong: a reference, `]]>`, a control character, a surrogate. */
  unusual(at: number, code: number): number {
    if (code === AMPERSAND) return this.reference(at)
    if (code === BRACKET) {
      if (this.source.startsWith(']]>', at)) {
        this.report(xmlProblems.sectionEnd({ start: at, end: at + 3 }))
        return at + 3
      }
      return at + 1
    }
    return this.character(at, code)
  }

  /** Checks one code unit (or pair) against XML's `Char`; gives the offset after it. */
  character(at: number, code: number): number {
    if (code >= 0xd800 && code <= 0xdbff && at + 1 < this.end) {
      const low = this.source.charCodeAt(at + 1)
      if (low >= 0xdc00 && low <= 0xdfff) return at + 2
    }
    if (code < SPACE || (code >= 0xd800 && code <= 0xdfff) || code >= 0xfffe) {
      this.report(xmlProblems.badCharacter(code, { start: at, end: at + 1 }))
    }
    return at + 1
  }

  /** Checks a stretch that is no text: the inside of a comment, a CDATA section, an instruction. */
  stretch(from: number, to: number): void {
    let at = from
    while (at < to) {
      const code = this.source.charCodeAt(at)
      if ((code >= SPACE && code < 0xd800) || isBlank(code)) at++
      else at = this.character(at, code)
    }
  }

  /** The offset after the reference at `at`, which is reported where it is none. */
  reference(at: number, inAttribute = false): number {
    const { source } = this
    if (at + 1 < this.end && source.charCodeAt(at + 1) === HASH) return this.characterReference(at)
    const nameEnd = skipName(source, at + 1, this.end)
    if (nameEnd === at + 1 || source[nameEnd] !== ';') {
      this.report(xmlProblems.strayAmpersand({ start: at, end: at + 1 }))
      return Math.max(nameEnd, at + 1)
    }
    if (this.entities !== undefined) {
      const name = source.slice(at + 1, nameEnd)
      const fault = this.entities.fault(name, inAttribute)
      const span = { start: at, end: nameEnd + 1 }
      if (fault !== undefined) this.report(xmlProblems.unknownEntity(name, fault, span))
    }
    return nameEnd + 1
  }

  private characterReference(at: number): number {
    CHARACTER_REFERENCE.lastIndex = at
    const match = CHARACTER_REFERENCE.exec(this.source)
    if (match === null) {
      this.report(xmlProblems.strayAmpersand({ start: at, end: at + 1 }))
      return at + 1
    }
    const end = at + match[0].length
    const code = match[1] === undefined ? Number(match[2]) : parseInt(match[1], 16)
    if (!isAllowedCodePoint(code)) {
      this.report(xmlProblems.badReference(match[0], { start: at, end }))
    }
    return end
  }
}
