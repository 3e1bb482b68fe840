/** The folders of core from the bottom up: each may import those before it, and none behind it. */
export const CORE = [
  'document',
  'formats',
  'keys',
  'likeness',
  'identity',
  'match',
  'plan',
  'write',
  'report',
  'carry',
  'lines',
  'checks',
  'grouping',
  'facts',
]
