import type { Span } from '../../document/problem.ts'
import { errorProblem as error } from '../../document/problem.ts'

export const iniProblems = {
  unclosedSection: (span: Span) =>
    error({
      code: 'ini/unclosed-section',
      message: 'the name of a section is opened here and never closed',
      span,
      hint: 'expected ] on the same line',
    }),
  afterSection: (text: string, span: Span) =>
    error({
      code: 'ini/after-section',
      message: `${text} stands after the name of a section`,
      span,
      hint: 'only a comment may follow on the same line',
    }),
  noSeparator: (span: Span) =>
    error({
      code: 'ini/no-separator',
      message: 'this line is neither a section nor a comment, and it has no =',
      span,
      hint: 'expected name = value',
    }),
  noName: (span: Span) =>
    error({
      code: 'ini/no-name',
      message: 'a value with no name before it',
      span,
      hint: 'expected name = value',
    }),
  unclosedQuote: (span: Span) =>
    error({
      code: 'ini/unclosed-quote',
      message: 'a quote is opened here and not closed on its line',
      span,
      hint: 'expected the same quote again at the end of the value',
    }),
  unclosedBrace: (span: Span) =>
    error({
      code: 'ini/unclosed-brace',
      message: 'a brace is opened here and never closed',
      span,
      hint: 'expected } before the end of the file',
    }),
  nulCharacter: (span: Span) =>
    error({
      code: 'ini/nul-character',
      message: 'the character U+0000 stands in a text file',
      span,
      hint: 'the file is damaged, or no INI file',
    }),
}
