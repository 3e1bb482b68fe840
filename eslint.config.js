import js from '@eslint/js'
import importX from 'eslint-plugin-import-x'
import tseslint from 'typescript-eslint'

/** Layers from the top down; each may import what stands below it, none what stands above. */
const zone = (target, from, why) => ({ target, from, message: why })

const directions = [
  zone('./src/core', './src/workspace', 'core has no I/O'),
  zone('./src/core', './src/show', 'core has no interface'),
  zone('./src/core', './src/commands', 'core has no interface'),
  zone('./src/workspace', './src/show', 'the disk does not show things'),
  zone('./src/workspace', './src/commands', 'commands are on top'),
  zone('./src/show', './src/commands', 'commands are on top'),
  zone('./src/show', './src/workspace', 'what is shown is facts, not the disk'),
  zone('./src/core/document', './src/core/formats', 'document is at the bottom of core'),
  zone('./src/core/document', './src/core/identity', 'document is at the bottom of core'),
  zone('./src/core/document', './src/core/carry', 'document is at the bottom of core'),
  zone('./src/core/formats', './src/core/identity', 'formats know nothing of identity'),
  zone('./src/core/formats', './src/core/carry', 'formats know nothing of carry'),
  zone('./src/core/identity', './src/core/carry', 'identity knows nothing of carry'),
  zone('./src/core/keys', './src/core/carry', 'keys know nothing of carry'),
]

/** A carry picks slices of its inputs; a value that goes through a serialiser has lost its form. */
const noSerialisers = [
  'error',
  {
    selector: "MemberExpression[object.name='JSON'][property.name=/^(parse|stringify)$/]",
    message: 'No path of carry parses or prints values: it picks slices of the source.',
  },
  {
    selector: 'NewExpression[callee.name=/^(DOMParser|XMLSerializer)$/]',
    message: 'No path of carry uses a DOM.',
  },
]

export default tseslint.config(
  { ignores: ['dist', 'node_modules', 'demo/data', 'coverage'] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  {
    plugins: { 'import-x': importX },
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': 'off',
      '@typescript-eslint/no-extraneous-class': 'off',
      'no-control-regex': 'off',
      'max-params': ['error', 6],
    },
  },
  {
    files: ['src/**/*.ts'],
    rules: {
      'import-x/no-restricted-paths': ['error', { zones: directions }],
      'import-x/no-cycle': 'error',
      'import-x/no-default-export': 'off',
      'max-lines-per-function': ['error', { max: 60, skipBlankLines: true, skipComments: true }],
      'max-lines': ['error', { max: 450, skipBlankLines: true, skipComments: true }],
    },
    settings: { 'import-x/resolver': { node: { extensions: ['.ts', '.js'] } } },
  },
  {
    files: ['src/core/**/*.ts'],
    rules: {
      'no-restricted-syntax': noSerialisers,
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: ['node:fs', 'node:fs/*', 'node:path', 'node:process', 'fs', 'path'],
              message: 'core has no I/O',
            },
            { group: ['@oclif/*', 'ansis', 'yaml', 'zod'], message: 'core has no interface' },
          ],
        },
      ],
      'no-restricted-globals': ['error', 'process', 'console', 'Buffer'],
    },
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
