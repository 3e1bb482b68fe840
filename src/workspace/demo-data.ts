import { readdir } from 'node:fs/promises'
import { EXIT, Failure, systemFailure } from './failure.ts'
import { DISK } from './io/disk.ts'
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

/** Puts the files of one folder over those of another, as an updater of a game does. */
export async function putOver(from: string, over: string): Promise<void> {
  await DISK.copyFolder(from, over)
}
