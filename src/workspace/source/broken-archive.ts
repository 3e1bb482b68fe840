import { EXIT, Failure, systemFailure } from '../failure.ts'

/** What a package says of an archive that it cannot read, as a sentence; anything else stays what it is. */
export function brokenArchive(error: unknown, path: string, what: string): unknown {
  if (error instanceof Failure || !(error instanceof Error) || error.name === 'AbortError')
    return error
  if ('syscall' in error) return systemFailure(error, 'Reading', path)
  return new Failure('source/broken', `${path} cannot be read as a ${what}: ${error.message}`, {
    exit: EXIT.unread,
    path,
    hint: 'nothing of it was taken in; get the archive anew, or unpack it and name the folder',
    cause: error,
  })
}
