import { cp, mkdir, mkdtemp, readdir } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { EXIT, Failure, systemFailure } from './failure.ts'

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
    await cp(demoSource(), target, { recursive: true })
  } catch (error) {
    throw systemFailure(error, 'Writing the demo data into', target)
  }
  return target
}

/** The demo data as it is shipped: `demo/data` beside the built program's folder. */
function demoSource(): string {
  return join(dirname(fileURLToPath(import.meta.url)), '..', 'demo', 'data')
}
