import { stat } from 'node:fs/promises'
import { join, resolve } from 'node:path'
import { nearest } from '../core/keys/nearest.ts'
import type { Config } from './config/config.ts'
import { readConfig } from './config/config.ts'
import { EXIT, Failure, systemFailure } from './failure.ts'
import { findRoot } from './find-root.ts'
import type { Disk } from './io/disk.ts'
import { isSamePath } from './paths.ts'
import { DISK } from './io/disk.ts'
import { CONFIG_NAME, STATE_NAME, StateLayout } from './state/layout.ts'
import { Store } from './store/store.ts'

export type Variant = NonNullable<Config['variants']>[string] & { name: string; location: string }

/** A folder with an `anagnosis.yaml`, and the state beside it. */
export class Workspace {
  readonly layout: StateLayout
  readonly store: Store

  constructor(
    /** Absolute. */
    readonly root: string,
    readonly config: Config,
    readonly disk: Disk = DISK,
  ) {
    this.layout = new StateLayout(stateFolder(root, config))
    this.store = new Store(this.layout, disk)
  }

  get variants(): Variant[] {
    return Object.entries(this.config.variants ?? {}).map(([name, variant]) => ({
      ...variant,
      name,
      location: resolve(this.root, variant.folder),
    }))
  }

  /** @throws Failure that names those there are */
  variant(name: string): Variant {
    const found = this.variants.find((each) => each.name === name)
    if (found !== undefined) return found
    const known = this.variants.map((each) => each.name)
    const near = nearest(name, known)
    const meant = near === undefined ? '' : `did you mean ${near}? `
    throw new Failure('variant/unknown', `${CONFIG_NAME} has no variant ${name}`, {
      exit: EXIT.wrongCall,
      path: join(this.root, CONFIG_NAME),
      hint:
        known.length === 0
          ? 'it names none; anagnosis setup adds one'
          : `${meant}it has ${known.join(', ')}`,
    })
  }

  /** What was decided for a variant; beside the config, to be kept under version control. */
  decisionsOf(variant: string): string {
    return join(this.root, 'decisions', `${variant}.yaml`)
  }

  /** Whether a path in a folder is the state of this workspace, which is no part of anybody's files. */
  isState(folder: string): (path: string) => boolean {
    const state = resolve(this.layout.root)
    return (path) => isSamePath(resolve(folder, path), state)
  }
}

function stateFolder(root: string, { store }: Config): string {
  return store === undefined ? join(root, STATE_NAME) : resolve(root, store)
}

/**
 * The workspace in a folder, or else the nearest one around it.
 *
 * @param named the folder that the call names; only that one is looked in
 * @throws Failure where there is none
 */
export async function openWorkspace(
  named: string | undefined,
  start = process.cwd(),
): Promise<Workspace> {
  const root = named === undefined ? findRoot(start) : resolve(named)
  if (root === undefined || !(await isFile(join(root, CONFIG_NAME)))) {
    const where = named === undefined ? `${start} or a folder around it` : named
    throw new Failure('workspace/none', `there is no ${CONFIG_NAME} in ${where}`, {
      exit: EXIT.wrongCall,
      hint: 'anagnosis setup makes one; --workspace DIR names the folder where one is',
    })
  }
  return new Workspace(root, await readConfig(join(root, CONFIG_NAME)))
}

export async function isFile(path: string): Promise<boolean> {
  return stat(path).then(
    (there) => there.isFile(),
    () => false,
  )
}

/** @throws Failure where the live folder of a variant is not there */
export async function requireFolder({ name, folder, location }: Variant): Promise<void> {
  const there = await stat(location).catch((error: unknown) => {
    throw systemFailure(error, `Looking at the live folder of ${name},`, `${folder},`, CONFIG_NAME)
  })
  if (there.isDirectory()) return
  throw new Failure('variant/no-folder', `the live folder of ${name}, ${folder}, is not a folder`, {
    exit: EXIT.wrongCall,
    path: folder,
    hint: `change its folder in ${CONFIG_NAME}`,
  })
}
