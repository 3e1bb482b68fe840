import type { Candidate } from './partners.ts'

/** Whether an identity is nothing but a number in every document, with the same before it (`crew-07`). */
export function isNumbered({ held }: Candidate): boolean {
  let stem: string | undefined
  return held.every(({ values }) =>
    values.every((value) => {
      const before = WHOLE.test(value) ? '' : stemOf(value)
      return before !== undefined && (stem ??= before) === before
    }),
  )
}

/** A whole number as it stands in a file, or as an exact decimal. */
const WHOLE = /^-?[0-9]+(e[0-9]+)?$/
const NUMBERED = /^(.*?)[0-9]+$/

/** What stands before the number in which a text ends; undefined where it ends in none. */
export function stemOf(text: string): string | undefined {
  return NUMBERED.exec(text)?.[1]
}

/** A number in a name, with what stands before it and behind it. */
export interface NumberInName {
  stem: string
  number: string
  rest: string
}

/** The numbers in a name, each by itself. */
export function numbersInName(name: string): NumberInName[] {
  return [...name.matchAll(/[0-9]+/g)].map(({ 0: number, index }) => ({
    stem: name.slice(0, index),
    number,
    rest: name.slice(index + number.length),
  }))
}

/** Whether an identity is nothing but the number of an entry in its container, in every document, or in some. */
export function onlyCounts({ held }: Candidate, documents = held): boolean {
  return documents.every(({ inContainers }) =>
    inContainers.every((entries) => {
      const [first, ...others] = entries.keys()
      if (first === undefined) return true
      return [first, ...others].every((each, i) => WHOLE.test(each) && +each === +first + i)
    }),
  )
}
