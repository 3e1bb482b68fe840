import { readFile } from 'node:fs/promises'
import type { z } from 'zod'
import { EXIT, Failure, systemFailure } from '../failure.ts'
import type { Disk } from '../io/disk.ts'
import { zodFault } from '../zod-words.ts'

/** Reads a state file through its schema; undefined where there is none. */
export async function readState<S extends z.ZodType>(
  path: string,
  schema: S,
): Promise<z.infer<S> | undefined> {
  let text: string
  try {
    text = await readFile(path, 'utf8')
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return undefined // what readFile throws has a code
    throw systemFailure(error, 'Reading', path)
  }
  const json = parsedJson(text)
  const parsed = schema.safeParse(json)
  if (parsed.success) return parsed.data
  refuseNewer(path, json)
  const [issue] = parsed.error.issues
  const steps = issue?.path.join(' ') ?? ''
  const at = steps === '' ? '' : `: ${steps}`
  const where = issue === undefined ? '' : `${at}: ${zodFault(issue)}`
  throw new Failure('state/wrong', `${path} is not as this version writes it${where}`, {
    exit: EXIT.unread,
    path,
    hint: 'it was written by another version, or altered; put it back from a copy, or move it away',
  })
}

/** The schema number that this version writes. */
const SCHEMA = 1

/** @throws Failure where a state was written by a later version, which knows more of it */
export function refuseNewer(path: string, content: unknown): void {
  const number =
    typeof content === 'object' && content !== null && 'schema' in content ? content.schema : 0
  if (typeof number !== 'number' || number <= SCHEMA) return
  throw new Failure('state/newer', `${path} was written by a later version of anagnosis`, {
    exit: EXIT.refused,
    path,
    hint: 'update anagnosis; nothing was changed',
  })
}

function parsedJson(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return undefined
  }
}

/** Writes a state file whole or not at all, and flushes it. */
export async function writeState(path: string, content: unknown, disk: Disk): Promise<void> {
  try {
    await disk.writeWhole(path, `${JSON.stringify(content, null, 1)}\n`)
  } catch (error) {
    throw systemFailure(error, 'Writing', path)
  }
}
