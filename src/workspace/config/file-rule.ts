import type { Config, FileRule } from './config.ts'
import { pathPattern } from './path-pattern.ts'

const known = new WeakMap<FileRule, (path: string) => boolean>()

/** The first rule of the config whose pattern a path matches. */
export function ruleFor(config: Config, path: string): FileRule | undefined {
  return config.files?.find((rule) => matcherOf(rule)(path))
}

/** Whether the config leaves a file out: then it is nobody's business here. */
export function isLeftOut(config: Config, path: string): boolean {
  return ruleFor(config, path)?.take === 'leave-out'
}

/** A pattern is made ready once: there may be thousands of files. */
function matcherOf(rule: FileRule): (path: string) => boolean {
  const matcher = known.get(rule) ?? pathPattern(rule.match)
  known.set(rule, matcher)
  return matcher
}
