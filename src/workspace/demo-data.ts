import { readFileSync } from 'node:fs'
import { readdir } from 'node:fs/promises'
import { join } from 'node:path'
import { EXIT, Failure, systemFailure } from './failure.ts'
import { DISK } from './io/disk.ts'
import { CONFIG_NAME } from './state/layout.ts'
import { shipped } from './shipped.ts'

/** Writes the demo data into a folder that is new or empty, a temporary one by default; gives the folder. */
export async function writeDemo(folder: string | undefined): Promise<string> {
  const target = folder ?? (await DISK.makeTemporary('saltlantern-'))
  try {
    await DISK.makeFolder(target)
    if ((await readdir(target)).length > 0) {
      throw new Failure('demo/not-empty', `${target} is not empty`, {
        exit: EXIT.refused,
        hint: 'name a folder that is new or empty',
      })
    }
    await DISK.copyFolder(shipped('demo', 'data'), target)
  } catch (error) {
    throw systemFailure(error, 'Writing the demo data into', target)
  }
  return target
}

/** Puts a text of the demo data at the end of the config, and gives the text. */
export async function addToConfig(root: string, file: string): Promise<string> {
  const config = join(root, CONFIG_NAME)
  const text = readFileSync(join(root, file), 'utf8')
  await DISK.writeWhole(config, readFileSync(config, 'utf8') + text)
  return text
}

/** Puts the files of one folder over those of another, as an updater of a game does. */
export async function putOver(from: string, over: string): Promise<void> {
  await DISK.copyFolder(from, over)
}
