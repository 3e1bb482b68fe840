import type { DialectSettings, FormatName } from '../../core/formats/index.ts'
import type { FormatRule } from './format-config.ts'

/** The format that a rule names, with or without more of its dialect. */
export function formatOfRule(rule: FormatRule | undefined): FormatName | undefined {
  return typeof rule === 'object' ? rule.name : rule
}

/** What a rule says of the dialect of its files. */
export function dialectOfRule(rule: FormatRule | undefined): DialectSettings {
  if (typeof rule !== 'object') return {}
  const { separator } = rule
  return {
    json: rule.dialect,
    ini: {
      separators: separator && [separator === 'blank' ? ' ' : separator],
      bareNames: rule['bare-names'],
      inlineComments: rule['comments-after-values'],
      slashComments: rule['slash-comments'],
      braces: rule['braces-over-lines'],
      openQuotes: rule['open-quotes'],
    },
  }
}
