import picomatch from 'picomatch'
import type { Config, FileRule } from './config.ts'

/** The first rule of the config whose pattern a path matches. */
export function ruleFor(config: Config, path: string): FileRule | undefined {
  return config.files?.find((rule) => picomatch.isMatch(path, rule.match, { dot: true }))
}
