import type { z } from 'zod'

const EXPECTED: Readonly<Record<string, string>> = {
  record: 'a mapping',
  object: 'a mapping',
  array: 'a list',
  tuple: 'a list',
  string: 'a text',
  int: 'a whole number',
  boolean: 'true or false',
}

/** What is wrong with a value, in a sentence; what a schema says in its own words stays as it is. */
export function zodFault(issue: z.core.$ZodIssue): string {
  switch (issue.code) {
    case 'invalid_type':
      return `${EXPECTED[issue.expected] ?? `a ${issue.expected}`} is expected here`
    case 'too_small':
      return `at least ${issue.minimum} ${amountOf(issue.origin)} expected here`
    case 'too_big':
      return `at most ${issue.maximum} ${amountOf(issue.origin)} expected here`
    case 'invalid_value':
      return `${issue.values.length === 1 ? '' : 'one of '}${issue.values.map(String).join(', ')} is expected here`
    case 'unrecognized_keys':
      return `nothing is called ${issue.keys.join(', ')} here`
    case 'invalid_key':
      return issue.issues[0]?.message ?? 'this name cannot stand here'
    case 'invalid_union':
      return 'what stands here is of none of the forms that it may have'
    case 'invalid_format':
      return issue.format === 'regex' && !issue.message.startsWith('Invalid')
        ? issue.message
        : 'this is not as it is written here'
    default:
      return issue.message
  }
}

function amountOf(origin: string): string {
  if (origin === 'string') return 'characters are'
  return origin === 'number' || origin === 'int' ? 'is' : 'values are'
}
