import { EXIT, Failure, systemFailure } from '../failure.ts'

/** What is wrong with an archive, as this program says it. */
export class ArchiveFault extends Error {}

/** What a package says of an archive that it cannot read, as a sentence; anything else stays what it is. */
export function brokenArchive(error: unknown, path: string, what: string): unknown {
  if (error instanceof Failure || !(error instanceof Error) || error.name === 'AbortError')
    return error
  if ('syscall' in error) return systemFailure(error, 'Reading', path)
  const why = error instanceof ArchiveFault ? error.message : 'it is damaged or cut short, or none'
  return new Failure('source/broken', `${path} cannot be read as a ${what}: ${why}`, {
    exit: EXIT.unread,
    path,
    hint: 'nothing of it was taken in; get the archive anew, or unpack it and name the folder',
    cause: error,
  })
}
