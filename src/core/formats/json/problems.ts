import type { Problem, Span } from '../../document/problem.ts'
import { errorProblem as error } from '../../document/problem.ts'

export const jsonProblems = {
  empty: (span: Span) =>
    error({
      code: 'json/empty',
      message: 'there is no value in this file',
      span,
      hint: 'expected {, [ or a value',
    }),
  missingComma: (next: string, span: Span, after: Span) =>
    error({
      code: 'json/missing-comma',
      message: `a comma is missing before ${next}`,
      span: after,
      hint: 'expected a comma here, after the value',
      related: { span, message: `${next} follows here` },
    }),
  missingColon: (name: string, span: Span) =>
    error({
      code: 'json/missing-colon',
      message: `a colon is missing after ${name}`,
      span,
      hint: 'expected : and a value',
    }),
  expectedName: (found: string, span: Span) =>
    error({
      code: 'json/expected-name',
      message: `${found} stands where a name is expected`,
      span,
      hint: 'expected a name in double quotes, or }',
    }),
  expectedValue: (found: string, span: Span) =>
    error({
      code: 'json/expected-value',
      message: `${found} stands where a value is expected`,
      span,
      hint: 'expected {, [, a string in double quotes, a number, true, false or null',
    }),
  strayComma: (span: Span) =>
    error({
      code: 'json/stray-comma',
      message: 'a comma with no value before it',
      span,
      hint: 'remove it',
    }),
  badNumber: (text: string, span: Span) =>
    error({
      code: 'json/bad-number',
      message: `${text} is not a number as JSON writes them`,
      span,
      hint: 'no leading zeros or +, and digits on both sides of the point',
    }),
  unclosedString: (span: Span) =>
    error({
      code: 'json/unclosed-string',
      message: 'a string is opened here and not closed on its line',
      span,
      hint: 'expected " before the end of the line',
    }),
  controlCharacter: (code: number, span: Span) =>
    error({
      code: 'json/control-character',
      message: `the character U+${code.toString(16).toUpperCase().padStart(4, '0')} stands in a string as it is`,
      span,
      hint: 'write it as an escape, such as \\t',
    }),
  badEscape: (text: string, span: Span) =>
    error({
      code: 'json/bad-escape',
      message: `${text} is not an escape that JSON knows`,
      span,
      hint: 'known are \\" \\\\ \\/ \\b \\f \\n \\r \\t and \\u with four hex digits; a backslash itself is \\\\',
    }),
  unclosedComment: (span: Span) =>
    error({
      code: 'json/unclosed-comment',
      message: 'a comment is opened here and never closed',
      span,
      hint: 'expected */',
    }),
  unclosed: (what: string, span: Span, noticed: Span, found: string) =>
    error({
      code: 'json/unclosed',
      message: `${what} is opened here and never closed`,
      span,
      hint: `expected ${what === '{' ? '}' : ']'} before ${found}`,
      related: { span: noticed, message: `noticed here, at ${found}` },
    }),
  strayClose: (what: string, span: Span) =>
    error({ code: 'json/stray-close', message: `${what} closes nothing that is open`, span }),
  afterEnd: (found: string, span: Span) =>
    error({
      code: 'json/after-end',
      message: `${found} stands after the end of the value`,
      span,
      hint: 'a JSON file holds one value',
    }),
  laxComment: (span: Span): Problem => ({
    severity: 'warning',
    code: 'json/lax-comment',
    message: 'your file has comments, which no vanilla version of it has; they are kept',
    span,
    hint: 'the game may refuse them',
  }),
  laxTrailingComma: (span: Span): Problem => ({
    severity: 'warning',
    code: 'json/lax-trailing-comma',
    message:
      'your file has a comma after a last entry, which no vanilla version of it has; it is kept',
    span,
    hint: 'the game may refuse it',
  }),
  laxJson5: (span: Span): Problem => ({
    severity: 'warning',
    code: 'json/lax-json5',
    message: 'your file is JSON5, which not every vanilla version of it is; it is kept',
    span,
    hint: 'the game may refuse it',
  }),
  tooDeep: (limit: number, span: Span) =>
    error({
      code: 'json/too-deep',
      message: `values are nested more than ${limit} deep`,
      span,
      hint: `files of up to ${limit} levels are read`,
    }),
}
