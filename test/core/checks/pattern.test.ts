import { expect, test } from 'vitest'
import { pathMatcher } from '../../../src/core/checks/pattern.ts'
import { pathPattern } from '../../../src/workspace/config/path-pattern.ts'

test.each([
  ['salvage\\*.xml', 'salvage/finds.xml'],
  ['./salvage/*.xml', 'salvage/finds.xml'],
  ['.\\salvage\\**', 'salvage/deep/finds.xml'],
  ['salvage/finds \\[old\\].xml', 'salvage/finds [old].xml'],
  ['Salvage/*.XML', 'salvage/finds.xml'],
])('%s is the same path for a check as for the rest of the config', (pattern, path) => {
  expect([pathMatcher(pattern)(path) !== undefined, pathPattern(pattern)(path)]).toEqual([
    true,
    true,
  ])
  expect([
    pathMatcher(pattern)('charts/order.json'),
    pathPattern(pattern)('charts/order.json'),
  ]).toEqual([undefined, false])
})
