import js from '@eslint/js'
import importX from 'eslint-plugin-import-x'
import tseslint from 'typescript-eslint'
import { CORE } from './scripts/core-rooms.js'
import { noCircle } from './scripts/no-circle.js'

/** The formats know nothing of each other. */
const FORMATS = ['xml', 'json', 'ini']

const zone = (target, from, message) => ({
  target: `./src/${target}`,
  from: `./src/${from}`,
  message,
})

const directions = [
  ...['workspace', 'show', 'screen', 'commands'].map((from) =>
    zone('core', from, 'core has no I/O and no interface'),
  ),
  zone('workspace', 'show', 'the disk does not show things'),
  zone('workspace', 'commands', 'commands are on top'),
  zone('show', 'commands', 'commands are on top'),
  zone('show', 'workspace', 'what is shown is facts, not the disk'),
  ...['workspace', 'show'].map((target) =>
    zone(target, 'screen', 'the screen is loaded by its command'),
  ),
  zone('screen', 'workspace', 'the screen is told facts, and asks through its port'),
  zone('screen', 'commands', 'commands are on top'),
  ...CORE.flatMap((target, i) =>
    CORE.slice(i + 1).map((from) =>
      zone(`core/${target}`, `core/${from}`, `${target} stands below ${from}`),
    ),
  ),
  ...FORMATS.flatMap((target) =>
    FORMATS.filter((from) => from !== target).map((from) =>
      zone(`core/formats/${target}`, `core/formats/${from}`, 'formats know nothing of each other'),
    ),
  ),
]

/** What core may import beside core: it does no I/O, and gives the same for the same. @param packages pure ones */
const coreImports = (...packages) => ({
  paths: [
    { name: 'node:crypto', allowImportNames: ['createHash'], message: 'core has nothing random' },
  ],
  patterns: [
    {
      regex: `^(?!\\.{1,2}/)(?!node:crypto$)${packages.map((name) => `(?!${name}$)`).join('')}`,
      message: 'core imports core, and of packages and of Node nothing that could do I/O',
    },
  ],
})

/** Calls of Node that change what is on a disk. */
const WRITING = [
  ...['appendFile', 'chmod', 'chown', 'copyFile', 'cp', 'createWriteStream', 'link', 'mkdir'],
  ...['mkdtemp', 'open', 'rename', 'rm', 'rmdir', 'symlink', 'truncate', 'unlink', 'utimes'],
  ...['writeFile', 'write', 'fsync'],
]
/** Reading opens files, too. */
const READING = ['open', 'openSync']

const diskImports = {
  paths: [
    ...['node:fs', 'node:fs/promises'].map((name) => ({
      name,
      importNames: WRITING.flatMap((call) => [call, `${call}Sync`]).filter(
        (call) => !READING.includes(call),
      ),
      message: 'workspace/io writes to the disk, and no other module',
    })),
    ...['write-file-atomic', 'proper-lockfile'].map((name) => ({
      name,
      message: 'workspace/io writes to the disk, and no other module',
    })),
  ],
}

/** A carry picks slices of its inputs; a value that goes through a serialiser has lost its form. */
const noSerialisers = [
  {
    selector: "MemberExpression[object.name='JSON'][property.name=/^(parse|stringify)$/]",
    message: 'No path of carry parses or prints values: it picks slices of the source.',
  },
  {
    selector: 'NewExpression[callee.name=/^(DOMParser|XMLSerializer)$/]',
    message: 'No path of carry uses a DOM.',
  },
  {
    selector: "MemberExpression[object.name='Math'][property.name='random']",
    message: 'Core gives the same for the same: what is random comes in as a parameter.',
  },
]

/** What a format means for a merge is asked of the format, so that another one needs no change elsewhere. */
const noFormatNames = [
  {
    selector:
      "MemberExpression[property.name='name']:matches([object.name='format'], [object.property.name='format'])",
    message: 'Ask the format what it does, not what it is called.',
  },
]

export default tseslint.config(
  { ignores: ['dist', 'node_modules', 'demo/data', 'coverage', '.made-tests'] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    plugins: { 'import-x': importX, own: { rules: { 'no-circle': noCircle } } },
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': 'off',
      '@typescript-eslint/no-extraneous-class': 'off',
      'no-control-regex': 'off',
      'max-params': ['error', 5],
    },
  },
  {
    files: ['src/**/*.ts'],
    rules: {
      'import-x/no-restricted-paths': ['error', { zones: directions }],
      'import-x/no-cycle': 'error',
      // the rule before passes over imports of types
      'own/no-circle': 'error',
      'import-x/no-default-export': 'off',
      'max-lines-per-function': ['error', { max: 60, skipBlankLines: true, skipComments: true }],
      'max-lines': ['error', { max: 350, skipBlankLines: true, skipComments: true }],
    },
    settings: {
      'import-x/resolver': { node: { extensions: ['.ts', '.js'] } },
      // without these two the rule against circles looks into no file of TypeScript
      'import-x/extensions': ['.ts'],
      'import-x/parsers': { '@typescript-eslint/parser': ['.ts'] },
    },
  },
  {
    files: ['src/core/**/*.ts'],
    rules: {
      'no-restricted-syntax': ['error', ...noSerialisers, ...noFormatNames],
      'no-restricted-imports': ['error', coreImports()],
      'no-restricted-globals': ['error', 'process', 'console', 'Buffer', 'fetch', 'require'],
    },
  },
  {
    // a check says what it looks like in the config, and which files it is for
    files: ['src/core/checks/**/*.ts'],
    rules: { 'no-restricted-imports': ['error', coreImports('zod', 'picomatch')] },
  },
  {
    files: ['src/core/formats/**/*.ts'],
    rules: { 'no-restricted-syntax': ['error', ...noSerialisers] },
  },
  {
    files: ['src/workspace/**/*.ts', 'src/commands/**/*.ts', 'src/show/**/*.ts'],
    ignores: ['src/workspace/io/**'],
    rules: { 'no-restricted-imports': ['error', diskImports] },
  },
  {
    // nodes are added by the million: an object for each would cost more than the reading
    files: ['src/core/document/tree.ts'],
    rules: { 'max-params': ['error', 6] },
  },
  {
    // one grammar: its parts share what is open, and apart they were measured a tenth slower
    files: ['src/core/formats/xml/scanner.ts'],
    rules: { 'max-lines': ['error', { max: 450, skipBlankLines: true, skipComments: true }] },
  },
  {
    // the program is started as CommonJS: only that can be run with V8's code cache
    files: ['bin/*.js', 'scripts/*.cjs'],
    languageOptions: {
      sourceType: 'commonjs',
      globals: {
        require: 'readonly',
        module: 'writable',
        __dirname: 'readonly',
        process: 'readonly',
      },
    },
    rules: { '@typescript-eslint/no-require-imports': 'off' },
  },
  {
    files: ['scripts/**/*.js', 'bench/**/*.js', 'demo/**/*.js'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        URL: 'readonly',
        structuredClone: 'readonly',
        setTimeout: 'readonly',
        Buffer: 'readonly',
      },
    },
  },
)
