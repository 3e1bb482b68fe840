import type { Span } from '../../document/problem.ts'
import { errorProblem as error } from '../../document/problem.ts'

export const xmlProblems = {
  empty: (span: Span) =>
    error({
      code: 'xml/empty',
      message: 'there is no element in this file',
      span,
      hint: 'an XML file has one root element that holds all others',
    }),
  unclosedElement: (name: string, span: Span, noticed: Span, found: string) =>
    error({
      code: 'xml/unclosed-element',
      message: `<${name}> is opened here and never closed`,
      span,
      hint: `expected </${name}> before ${found}`,
      related: { span: noticed, message: `noticed here, at ${found}` },
    }),
  strayClose: (name: string, span: Span, open: string | undefined) =>
    error({
      code: 'xml/stray-close',
      message: `</${name}> closes nothing that is open`,
      span,
      hint: open === undefined ? 'no element is open here' : `the element open here is <${open}>`,
    }),
  unclosedTag: (name: string, span: Span) =>
    error({
      code: 'xml/unclosed-tag',
      message: `the tag <${name} has no >`,
      span,
      hint: 'expected an attribute, > or />',
    }),
  badAttribute: (tag: string, span: Span) =>
    error({
      code: 'xml/bad-attribute',
      message: `this is not an attribute of <${tag}>`,
      span,
      hint: 'expected name="value", > or />',
    }),
  missingBlank: (tag: string, span: Span) =>
    error({
      code: 'xml/missing-blank',
      message: `a blank is missing between two attributes of <${tag}>`,
      span,
      hint: 'expected a blank before the name',
    }),
  missingValue: (name: string, span: Span) =>
    error({
      code: 'xml/missing-value',
      message: `the attribute ${name} has no value`,
      span,
      hint: `expected ${name}="…", with quotes`,
    }),
  unclosedValue: (name: string, span: Span) =>
    error({
      code: 'xml/unclosed-value',
      message: `the value of ${name} is opened here and its quote never closed`,
      span,
      hint: 'expected the same quote again before the next < or the end of the file',
    }),
  duplicateAttribute: (name: string, span: Span, first: Span) =>
    error({
      code: 'xml/duplicate-attribute',
      message: `the attribute ${name} is given twice`,
      span,
      hint: 'keep one of the two',
      related: { span: first, message: `${name} is first given here` },
    }),
  strayLess: (span: Span) =>
    error({
      code: 'xml/stray-less-than',
      message: 'a < that begins no tag',
      span,
      hint: 'expected a name after it; a < that is meant as text is written &lt;',
    }),
  strayAmpersand: (span: Span) =>
    error({
      code: 'xml/stray-ampersand',
      message: 'an & that begins no reference',
      span,
      hint: 'an & that is meant as text is written &amp;',
    }),
  unknownEntity: (name: string, fault: string, span: Span) =>
    error({
      code: 'xml/unknown-entity',
      message: `&${name}; ${fault}`,
      span,
      hint: 'without a DOCTYPE only &lt; &gt; &amp; &quot; &apos; and &#…; are known',
    }),
  badReference: (text: string, span: Span) =>
    error({
      code: 'xml/bad-reference',
      message: `${text} names a character that XML does not allow`,
      span,
      hint: 'remove it',
    }),
  badCharacter: (code: number, span: Span) =>
    error({
      code: 'xml/bad-character',
      message: `the character U+${code.toString(16).toUpperCase().padStart(4, '0')} is not allowed in XML`,
      span,
      hint: 'remove it',
    }),
  sectionEnd: (span: Span) =>
    error({
      code: 'xml/stray-section-end',
      message: ']]> stands in text',
      span,
      hint: 'it may only end a <![CDATA[ section; as text it is written ]]&gt;',
    }),
  unclosedComment: (span: Span) =>
    error({
      code: 'xml/unclosed-comment',
      message: 'a comment is opened here and never closed',
      span,
      hint: 'expected -->',
    }),
  doubleHyphen: (span: Span) =>
    error({
      code: 'xml/double-hyphen',
      message: '-- stands inside a comment',
      span,
      hint: 'XML allows -- only as part of -->; write - - or a dash',
    }),
  unclosedCdata: (span: Span) =>
    error({
      code: 'xml/unclosed-cdata',
      message: 'a <![CDATA[ section is opened here and never closed',
      span,
      hint: 'expected ]]>',
    }),
  unclosedInstruction: (span: Span) =>
    error({
      code: 'xml/unclosed-instruction',
      message: 'a processing instruction is opened here and never closed',
      span,
      hint: 'expected ?>',
    }),
  badInstruction: (span: Span) =>
    error({
      code: 'xml/bad-instruction',
      message: 'this processing instruction has no usable name',
      span,
      hint: 'expected a name after <?, then a blank or ?>',
    }),
  misplacedDeclaration: (span: Span) =>
    error({
      code: 'xml/misplaced-declaration',
      message: 'the XML declaration may only stand at the very start of the file',
      span,
      hint: 'remove what stands before it, blanks and line ends too',
    }),
  badDeclaration: (span: Span) =>
    error({
      code: 'xml/bad-declaration',
      message: 'the XML declaration is not of the form that XML wants',
      span,
      hint: 'expected <?xml version="1.0" encoding="…" standalone="yes|no"?>, in this order',
    }),
  unclosedDoctype: (span: Span) =>
    error({
      code: 'xml/unclosed-doctype',
      message: 'a DOCTYPE is opened here and never closed',
      span,
      hint: 'expected >',
    }),
  misplacedDoctype: (span: Span) =>
    error({
      code: 'xml/misplaced-doctype',
      message: 'a DOCTYPE may only stand once, before the root element',
      span,
      hint: 'remove this one, or move it to the start',
    }),
  outsideRoot: (span: Span) =>
    error({
      code: 'xml/text-outside-root',
      message: 'text stands outside the root element',
      span,
      hint: 'only comments and blanks may stand before and after the root element',
    }),
  secondRoot: (name: string, span: Span, first: Span) =>
    error({
      code: 'xml/second-root',
      message: `<${name}> is a second root element`,
      span,
      hint: 'an XML file has one root element that holds all others',
      related: { span: first, message: 'the first root element is opened here' },
    }),
  tooDeep: (limit: number, span: Span) =>
    error({
      code: 'xml/too-deep',
      message: `elements are nested more than ${limit} deep`,
      span,
      hint: `files of up to ${limit} levels are read`,
    }),
}
