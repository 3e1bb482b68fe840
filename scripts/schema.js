// Writes the JSON Schemas of what the program prints and reads into schema/; with --check, compares.
import { build } from 'esbuild'
import { mkdir, readFile, writeFile } from 'node:fs/promises'
import { z } from 'zod'

const SCHEMAS = {
  'carry.schema.json': [
    'src/show/carry-document.ts',
    'carryDocument',
    'What anagnosis carry --json prints',
  ],
  'carry-variants.schema.json': [
    'src/show/carry-document.ts',
    'carryVariantsDocument',
    'What anagnosis carry --json prints in a workspace',
  ],
  'settle.schema.json': [
    'src/show/settle-document.ts',
    'settleDocument',
    'What anagnosis settle --json prints',
  ],
  'check.schema.json': [
    'src/show/check-document.ts',
    'checkDocument',
    'What anagnosis check --json prints',
  ],
  'completion.schema.json': [
    'src/show/completion-document.ts',
    'completionDocument',
    'What anagnosis completion --json prints',
  ],
  'deliver.schema.json': [
    'src/show/deliver-document.ts',
    'deliverDocument',
    'What anagnosis deliver --json prints',
  ],
  'deliver-each.schema.json': [
    'src/show/deliver-document.ts',
    'deliverEachDocument',
    'What anagnosis deliver --each --json prints',
  ],
  'restore.schema.json': [
    'src/show/deliver-document.ts',
    'restoreDocument',
    'What anagnosis restore --json prints',
  ],
  'failure.schema.json': [
    'src/show/carry-document.ts',
    'failureDocument',
    'What any command prints with --json when it could not do its work',
  ],
  ...Object.fromEntries(
    [
      ['vanilla-add', 'vanilla', 'addedDocument'],
      ['vanilla-list', 'vanilla', 'listedDocument'],
      ['vanilla-verify', 'vanilla', 'verifiedDocument'],
      ['vanilla-remove', 'vanilla', 'removedDocument'],
      ['vanilla-guess', 'vanilla', 'guessedDocument'],
      ['whatsnew', 'whatsnew', 'whatsNewDocument'],
      ['setup', 'workspace', 'setupDocument'],
      ['backup', 'workspace', 'backupDocument'],
      ['backup-list', 'workspace', 'backupsDocument'],
      ['overview', 'workspace', 'overviewDocument'],
      ['demo', 'demo', 'demoDocument'],
    ].map(([command, file, name]) => [
      `${command}.schema.json`,
      [
        `src/show/${file}-document.ts`,
        name,
        `What anagnosis ${command.replace('-', ' ')} --json prints`,
      ],
    ]),
  ),
  'anagnosis.schema.json': ['src/workspace/config/config.ts', 'configSchema', 'anagnosis.yaml'],
}

async function load(path) {
  const { outputFiles } = await build({
    entryPoints: [path],
    bundle: true,
    write: false,
    format: 'esm',
    platform: 'node',
    packages: 'external',
    outfile: 'scripts/.schema.mjs',
  })
  await mkdir(new URL('../dist/', import.meta.url), { recursive: true })
  const location = new URL(`../dist/.schema-${path.replace(/\W/g, '-')}.mjs`, import.meta.url)
  await writeFile(location, outputFiles[0].text)
  return import(location.href)
}

const isConfig = (file) => file === 'anagnosis.schema.json'

/** Who reads a document has to put up with members that a later version adds; in the config they are slips. */
function open({ jsonSchema }) {
  if (jsonSchema.additionalProperties === false) delete jsonSchema.additionalProperties
}

let stale = 0
for (const [file, [path, name, title]] of Object.entries(SCHEMAS)) {
  const module = await load(path)
  const schema = {
    title,
    ...z.toJSONSchema(module[name], isConfig(file) ? {} : { override: open }),
  }
  const text = `${JSON.stringify(schema, null, 2)}\n`
  const location = new URL(`../schema/${file}`, import.meta.url)
  const written = await readFile(location, 'utf8').catch(() => '')
  if (written.replace(/\r\n/g, '\n') === text) continue
  if (process.argv.includes('--check')) {
    console.error(`schema/${file} is out of date: run node scripts/schema.js`)
    stale++
  } else await writeFile(location, text)
}
process.exitCode = stale > 0 ? 1 : 0
