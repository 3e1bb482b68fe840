import { readFile, stat } from 'node:fs/promises'
import { join, resolve } from 'node:path'
import type { TakenRelease } from '../../core/facts/release.ts'
import type { Care, SetupDone } from '../../core/facts/setup.ts'
import { listBackups, makeBackup } from '../backup/backup.ts'
import { isVariantName, parseConfig } from '../config/config.ts'
import type { BackupMade } from '../../core/facts/backup.ts'
import { asFailure, EXIT, Failure, systemFailure } from '../failure.ts'
import type { Disk } from '../io/disk.ts'
import { formatOfPath } from '../../core/formats/detect.ts'
import { ruleFor } from '../config/file-rule.ts'
import { nameFrom } from '../paths.ts'
import { CONFIG_NAME } from '../state/layout.ts'
import { releaseTree } from '../store/release-tree.ts'
import { findRelease } from '../store/release.ts'
import { takeRelease } from '../take-release.ts'
import { NO_VANILLA } from '../store/release.ts'
import { shipped } from '../shipped.ts'
import { readTree } from '../tree.ts'
import type { Variant } from '../workspace.ts'
import { isFile, Workspace } from '../workspace.ts'
import type { NewVariant } from './config-text.ts'
import { newConfigText, SCHEMA_NAME, withSparse, withVariant } from './config-text.ts'
import { proposePolicies } from './policies.ts'
import { findVersionAt } from './find-version.ts'

export interface SetupRequest {
  /** Where the workspace is, or is to be. */
  root: string
  variant: string
  folder: string
  vanilla: string
  /** Where that vanilla can be taken from, where the store has it not. */
  source: string | undefined
  game: string | undefined
  /** Whether the folder holds customised files alone. */
  sparse?: boolean
  now: Date
  progress?: ((done: number, total?: number) => void) | undefined
  signal?: AbortSignal | undefined
  disk?: Disk
}

/** Makes a workspace, or adds a variant to one, and takes a first backup. Run again it changes nothing. */
export async function setUp(request: SetupRequest): Promise<SetupDone> {
  const root = resolve(request.root)
  requireName(request.variant)
  await requireLiveFolder(request.folder)
  const path = join(root, CONFIG_NAME)
  const known = (await isFile(path)) ? await readFile(path, 'utf8') : undefined
  const variant = {
    name: request.variant,
    folder: nameFrom(root, request.folder),
    vanilla: request.vanilla,
    ...(request.sparse === true ? { sparse: true } : {}),
  }
  const { text, config, policies } = plan(known, variant, request, path)
  const workspace = new Workspace(root, parseConfig(text, path), request.disk)
  const live = workspace.variant(variant.name)
  await copySchema(workspace)
  if (config !== 'as-it-was') {
    await workspace.disk.writeWhole(path, text).catch((error: unknown) => {
      throw systemFailure(error, 'Writing', path)
    })
  }
  const hasBackup = (await listBackups(workspace.layout, live.name)).length > 0
  let taken: TakenRelease | undefined
  let backup: BackupMade | undefined
  try {
    taken = await takeVanilla(workspace, request)
    if (!hasBackup) backup = await makeBackup(workspace, live, request)
  } catch (error) {
    throw config === 'as-it-was' ? error : endedIn(error, taken !== undefined)
  }
  const releases = await workspace.store.releases()
  return {
    variant: live,
    config,
    policies,
    taken,
    backup,
    hasVanilla: findRelease(releases, live.vanilla) !== undefined,
    fewOf: await fewOf(workspace, live),
    care: careOf(workspace, live),
  }
}

/** What is to be said where a setup that has written the config already cannot go on, or somebody ends it. */
function endedIn(error: unknown, hasVanilla: boolean): unknown {
  const failure = asFailure(error)
  if (failure.exit !== EXIT.interrupted) {
    const { hint } = failure.details
    const told = `${CONFIG_NAME} is written: the same call, mended, does the rest`
    return new Failure(failure.code, failure.message, {
      ...failure.details,
      hint: hint === undefined ? told : `${hint}; ${told}`,
    })
  }
  const vanilla = hasVanilla ? 'the vanilla is in the store' : 'the vanilla is not in the store'
  return new Failure(
    failure.code,
    `interrupted: ${CONFIG_NAME} is written, ${vanilla}, and no backup was made`,
    { exit: EXIT.interrupted, hint: 'the same call again does the rest' },
  )
}

/** A folder with less than this share of vanilla's files may hold customised files alone. */
const FEW = 0.5

async function fewOf(
  workspace: Workspace,
  variant: Variant,
): Promise<{ files: number; of: number } | undefined> {
  const release = findRelease(await workspace.store.releases(), variant.vanilla)
  if (release === undefined || variant.sparse === true) return undefined
  const paths = [...(await releaseTree(workspace.store, release)).keys()]
  const live = new Set([...readTree(variant.location).keys()].map((path) => path.toLowerCase()))
  const files = paths.filter((path) => live.has(path.toLowerCase())).length
  return files > 0 && files < paths.length * FEW ? { files, of: paths.length } : undefined
}

function requireName(name: string): void {
  if (isVariantName(name)) return
  throw new Failure('call/wrong', `${name} cannot be the name of a variant`, {
    exit: EXIT.wrongCall,
    hint: 'files are called after it: take letters, digits, - and _',
  })
}

async function requireLiveFolder(folder: string): Promise<void> {
  const there = await stat(folder).catch((error: unknown) => {
    throw systemFailure(error, 'Looking at the live folder', folder)
  })
  if (there.isDirectory()) return
  throw new Failure('call/no-folder', `${folder} is not a folder`, {
    exit: EXIT.wrongCall,
    path: folder,
    hint: 'name the folder that the game or the server reads',
  })
}

function plan(
  known: string | undefined,
  variant: NewVariant,
  { game, folder, root }: SetupRequest,
  path: string,
): Pick<SetupDone, 'config' | 'policies'> & { text: string } {
  if (known === undefined) {
    const files = [...readTree(folder)]
      .filter(([, { kind }]) => kind === 'file')
      .map(([name]) => name)
    const policies = proposePolicies(files)
    const versionAt = findVersionAt(folder, files, variant.vanilla, nameFrom(resolve(root), folder))
    return {
      text: newConfigText({ game, versionAt, variant, policies }),
      config: 'written',
      policies,
    }
  }
  const there = parseConfig(known, path).variants?.[variant.name]
  if (there === undefined)
    return { text: withVariant(known, variant), config: 'added-to', policies: [] }
  if (there.folder === variant.folder && there.vanilla === variant.vanilla) {
    const isSparser = variant.sparse === true && there.sparse !== true
    return isSparser
      ? { text: withSparse(known, variant.name), config: 'added-to', policies: [] }
      : { text: known, config: 'as-it-was', policies: [] }
  }
  throw new Failure(
    'setup/other-variant',
    `${CONFIG_NAME} has a variant ${variant.name} already: ${there.folder}, made from ${there.vanilla}`,
    {
      exit: EXIT.refused,
      path,
      hint: 'give this one another name, or change that one in the file',
    },
  )
}

async function takeVanilla(
  workspace: Workspace,
  request: SetupRequest,
): Promise<TakenRelease | undefined> {
  if (request.source === undefined || request.vanilla === NO_VANILLA) return undefined
  const releases = await workspace.store.releases()
  if (findRelease(releases, request.vanilla) !== undefined) return undefined
  return takeRelease(workspace, {
    label: request.vanilla,
    sources: [request.source],
    trial: false,
    only: [],
    now: request.now,
    progress: request.progress,
    signal: request.signal,
  })
}

/** The schema of the config stands beside the state, where editors find it whatever the program's place is. */
async function copySchema({ layout, disk }: Workspace): Promise<void> {
  try {
    await disk.makeFolder(layout.root)
    await disk.copyFile(shipped('schema', SCHEMA_NAME), join(layout.root, SCHEMA_NAME))
  } catch (error) {
    throw systemFailure(error, 'Writing into', layout.root)
  }
}

function careOf(workspace: Workspace, variant: Variant): Care {
  const care: Care = { byKey: 0, others: 0, vanilla: 0, mine: 0, leftOut: 0, notFiles: [] }
  for (const [path, { kind }] of readTree(variant.location, workspace.isState(variant.location))) {
    if (kind === 'empty-folder') continue
    const rule = ruleFor(workspace.config, path)
    if (kind !== 'file') care.notFiles.push(path)
    else if (rule?.take === 'leave-out') care.leftOut++
    else if (rule?.take === 'vanilla') care.vanilla++
    else if (rule?.take === 'mine') care.mine++
    else if (rule?.format !== undefined || formatOfPath(path) !== undefined) care.byKey++
    else care.others++
  }
  return care
}
