/** Code units that scanners look for. */
export const TAB = 9
export const LF = 10
export const CR = 13
export const SPACE = 32

/** Whether a code unit is a blank or a line end: what XML, JSON and INI skip between tokens. */
export function isBlank(code: number): boolean {
  return code === SPACE || code === LF || code === CR || code === TAB
}

/** Whether a code unit ends a line, or is a part of what does. */
export function isLineEnd(code: number): boolean {
  return code === LF || code === CR
}

/** The first offset in `[from, to)` that holds no blank and no line end; `to` where all are. */
export function skipBlanks(source: string, from: number, to: number): number {
  let at = from
  while (at < to && isBlank(source.charCodeAt(at))) at++
  return at
}

/** The offset after blanks and one line end, where nothing else stands before it; else `from`. */
export function skipToLineStart(source: string, from: number, to: number): number {
  let at = from
  while (at < to) {
    const code = source.charCodeAt(at)
    if (code === LF) return at + 1
    if (code === CR) return at + 1 < to && source.charCodeAt(at + 1) === LF ? at + 2 : at + 1
    if (code !== SPACE && code !== TAB) return from
    at++
  }
  return from
}

/** How many line ends stand in `[from, to)`; CRLF is one. */
export function countLineEnds(source: string, from: number, to: number): number {
  let count = 0
  for (let at = from; at < to; at++) {
    const code = source.charCodeAt(at)
    if (
      code === LF ||
      (code === CR && !(at + 1 < source.length && source.charCodeAt(at + 1) === LF))
    )
      count++
  }
  return count
}

/** So short a slice is a copy anyway. */
const LEAST_SLICE = 13

/**
 * The same text as a copy of its own. V8 keeps a slice as a reference into the text it was cut from: what
 * outlives a source of megabytes must not hold it by ten characters.
 */
export function detached(text: string): string {
  return text.length < LEAST_SLICE ? text : ` ${text}`.slice(1)
}

/** Text with its runs of blanks and line ends made one blank, and none outside. */
export function foldBlanks(text: string): string {
  return text.replace(/\s+/g, ' ').trim()
}

/**
 * Text without the blanks at both ends of its lines: how far a line is indented is form, and so is how it ends. Of a
 * run of blanks only the first is tried as a beginning, so that a long one takes no longer than its share.
 */
export function unindented(text: string): string {
  return /[\r\n]/.test(text) ? text.replace(/(?<![ \t])[ \t]*(?:\r\n?|\n)[ \t]*/g, '\n') : text
}

/** The offset behind the quote that closes the one at `open`, where a backslash escapes; past the end where none does. */
export function afterQuote(text: string, open: number): number {
  let at = open + 1
  while (at < text.length && text.charAt(at) !== '"') at += text.charAt(at) === '\\' ? 2 : 1
  return at + 1
}
