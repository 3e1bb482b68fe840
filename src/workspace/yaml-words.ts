import type { YAMLError } from 'yaml'

export const NO_ANCHOR = 'this alias is of no anchor before it'
export const TOO_MANY_ALIASES = 'aliases in it stand for more than can be read'

/** What is wrong with a YAML file, by the code that the parser gives. */
const WORDS: Readonly<Record<string, string>> = {
  BAD_ALIAS: NO_ANCHOR,
  BAD_DIRECTIVE: 'this directive is not known',
  BAD_DQ_ESCAPE:
    'this is no escape that double quotes know: write \\\\ for a backslash, or take single quotes',
  BAD_INDENT: 'this line is indented otherwise than those beside it',
  BAD_SCALAR_START: 'a value that begins with this sign needs quotes',
  BLOCK_AS_IMPLICIT_KEY: 'a mapping cannot begin here: is a line break missing, or are quotes?',
  BLOCK_IN_FLOW: 'a list or mapping over several lines cannot stand between brackets',
  DUPLICATE_KEY: 'this key stands twice in one mapping',
  KEY_OVER_1024_CHARS: 'this key is longer than 1,024 characters',
  MISSING_CHAR: 'a closing bracket, a quote, a comma or a colon is missing',
  MULTILINE_IMPLICIT_KEY: 'a key cannot go over several lines: is a colon missing before?',
  MULTIPLE_ANCHORS: 'a value has one anchor at most',
  MULTIPLE_DOCS: 'only one document may stand here',
  MULTIPLE_TAGS: 'a value has one tag at most',
  RESOURCE_EXHAUSTION: TOO_MANY_ALIASES,
  TAB_AS_INDENT: 'a line is indented by a tab; YAML takes blanks alone',
  TAG_RESOLVE_FAILED: 'this tag is not known here',
  UNEXPECTED_TOKEN: 'this cannot stand here',
}

/** What is wrong with a YAML file, in a sentence. */
export function yamlFault({ code, message }: YAMLError): string {
  if (code === 'BAD_INDENT' && message.startsWith('Flow'))
    return 'a [ or { before this place is not closed'
  return WORDS[code] ?? 'the file is no YAML from here on'
}
