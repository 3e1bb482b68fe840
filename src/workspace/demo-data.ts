import { cp, mkdir, mkdtemp, readdir } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { EXIT, Failure, systemFailure } from './failure.ts'
import { shipped } from './shipped.ts'

/** Writes the demo data into a folder that is new or empty, a temporary one by default; gives the folder. */
export async function writeDemo(folder: string | undefined): Promise<string> {
  const target = folder ?? (await mkdtemp(join(tmpdir(), 'saltlantern-')))
  try {
    await mkdir(target, { recursive: true })
    if ((await readdir(target)).length > 0) {
      throw new Failure('demo/not-empty', `${target} is not empty`, {
        exit: EXIT.refused,
        hint: 'name a folder that is new or empty',
      })
    }
    await cp(shipped('demo', 'data'), target, { recursive: true })
  } catch (error) {
    throw systemFailure(error, 'Writing the demo data into', target)
  }
  return target
}
