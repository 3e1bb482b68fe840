import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { ESLint } from 'eslint'
import { expect, test } from 'vitest'
import { ROOT } from './cli/program.ts'

/** One breach of a rule: in the place of which file, what stands there, and what is said of it. */
interface Breach {
  what: string
  file: string
  code: string
  rule: string
  said: RegExp
}

const CORE = readdirSync(join(ROOT, 'src', 'core'), { withFileTypes: true })
  .filter((each) => each.isDirectory())
  .map((each) => each.name)

/** The folders of core from the bottom up, as the rules have them. */
const ORDER = [
  ...[
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
  ],
  ...['grouping', 'facts'],
]

const firstFile = (folder: string): string =>
  readdirSync(join(ROOT, 'src', 'core', folder)).find((name) => name.endsWith('.ts')) ?? ''

const upward: Breach[] = ORDER.slice(0, -1).map((folder, i) => {
  const above = ORDER[i + 1] ?? ''
  return {
    what: `core/${folder} imports core/${above}`,
    file: `src/core/${folder}/planted.ts`,
    code: `import * as above from '../${above}/${firstFile(above)}'\nexport const planted = above\n`,
    rule: 'import-x/no-restricted-paths',
    said: /stands below/,
  }
})

const imports = (
  file: string,
  from: string,
  rule: string,
  said: RegExp,
  names = '* as planted',
): Breach => ({
  what: `${file} imports ${from}`,
  file,
  code: `import ${names} from '${from}'\nexport default ${names === '* as planted' ? 'planted' : 1}\n`,
  rule,
  said,
})

const PATHS = 'import-x/no-restricted-paths'
const IMPORTS = 'no-restricted-imports'
const planted = 'src/core/carry/planted.ts'

const line = 'export const one = 1\n'

const BREACHES: Breach[] = [
  ...upward,
  imports('src/core/document/planted.ts', '../../workspace/tree.ts', PATHS, /no I\/O/),
  imports('src/core/document/planted.ts', '../../show/text.ts', PATHS, /no interface/),
  imports('src/core/document/planted.ts', '../../commands/index.ts', PATHS, /no interface/),
  imports('src/core/formats/xml/planted.ts', '../json/number.ts', PATHS, /nothing of each other/),
  imports('src/workspace/planted.ts', '../show/text.ts', PATHS, /does not show/),
  imports('src/workspace/planted.ts', '../commands/index.ts', PATHS, /on top/),
  imports('src/show/planted.ts', '../workspace/tree.ts', PATHS, /not the disk/),
  imports('src/show/planted.ts', '../commands/index.ts', PATHS, /on top/),
  imports('src/show/planted.ts', '../screen/settle-screen.ts', PATHS, /loaded by its command/),
  imports('src/screen/planted.ts', '../workspace/tree.ts', PATHS, /through its port/),
  ...['node:fs', 'node:child_process', 'node:path', 'node:os', 'zod', 'yaml', '@oclif/core'].map(
    (name) => imports(planted, name, IMPORTS, /could do I\/O/),
  ),
  imports('src/core/checks/planted.ts', 'node:fs', IMPORTS, /could do I\/O/),
  imports(planted, 'node:crypto', IMPORTS, /nothing random/, '{ randomBytes }'),
  ...['writeFile', 'mkdir', 'rename', 'rm', 'symlink', 'utimes', 'copyFile'].map((call) =>
    imports(
      'src/workspace/planted.ts',
      'node:fs/promises',
      IMPORTS,
      /workspace\/io/,
      `{ ${call} }`,
    ),
  ),
  imports('src/commands/planted.ts', 'node:fs', IMPORTS, /workspace\/io/, '{ writeFileSync }'),
  imports('src/workspace/planted.ts', 'write-file-atomic', IMPORTS, /workspace\/io/),
  {
    what: 'core draws a random number',
    file: planted,
    code: 'export const seed = Math.random()\n',
    rule: 'no-restricted-syntax',
    said: /random/,
  },
  {
    what: 'core parses with JSON.parse',
    file: planted,
    code: "export const value: unknown = JSON.parse('1')\n",
    rule: 'no-restricted-syntax',
    said: /slices/,
  },
  {
    what: 'core asks a format for its name',
    file: planted,
    code: "import type { Doc } from '../formats/doc.ts'\nexport const is = (doc: Doc): boolean => doc.format.name === 'json'\n",
    rule: 'no-restricted-syntax',
    said: /what it is called/,
  },
  {
    what: 'core reads the process',
    file: planted,
    code: 'export const here = process.cwd()\n',
    rule: 'no-restricted-globals',
    said: /process/,
  },
  {
    what: 'a file of more than 350 lines',
    file: planted,
    code: line.repeat(351).replace(/one/g, () => `a${Math.floor(Math.random() * 1e9)}`),
    rule: 'max-lines',
    said: /351/,
  },
  {
    what: 'a function of more than 60 lines',
    file: planted,
    code: `export function long(): void {\n${'  void 0\n'.repeat(61)}}\n`,
    rule: 'max-lines-per-function',
    said: /too many lines/,
  },
  {
    what: 'a function of six parameters',
    file: planted,
    code: 'export const sum = (a: number, b: number, c: number, d: number, e: number, f: number) => a + b + c + d + e + f\n',
    rule: 'max-params',
    said: /too many parameters \(6\)/,
  },
  {
    what: 'any',
    file: planted,
    code: 'export const anything = (it: any): void => void it\n',
    rule: '@typescript-eslint/no-explicit-any',
    said: /any/,
  },
]

const lint = new ESLint({ cwd: ROOT })

test('each rule finds what it forbids', async () => {
  for (const { what, file, code, rule, said } of BREACHES) {
    const [result] = await lint.lintText(code, { filePath: join(ROOT, file) })
    const found = result?.messages.filter(({ ruleId }) => ruleId === rule) ?? []
    expect([what, found.some(({ message }) => said.test(message))]).toEqual([what, true])
  }
})

test.each([
  // the lists of units import both of these: that they import the lists would be a circle
  [
    'tree.ts',
    "import type { UnitList } from './unit-list.ts'\nexport type Planted = UnitList",
    'own/no-circle',
  ],
  [
    'characters.ts',
    "import { contentUnits } from './unit-list.ts'\nexport const planted = contentUnits",
    'own/no-circle',
  ],
  [
    'characters.ts',
    "import { contentUnits } from './unit-list.ts'\nexport const planted = contentUnits",
    'import-x/no-cycle',
  ],
])('a circle of imports is found, types included (%s)', async (name, code, rule) => {
  const file = join(ROOT, 'src/core/document', name)
  const text = `${code}\n${readFileSync(file, 'utf8')}`
  const [result] = await lint.lintText(text, { filePath: file })
  expect(result?.messages.map(({ ruleId }) => ruleId)).toContain(rule)
})

test('every folder of core has its place among the others', () => {
  expect([...CORE].sort()).toEqual([...ORDER].sort())
})
