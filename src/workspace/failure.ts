/** The exit codes of the contract. */
export const EXIT = {
  done: 0,
  open: 1,
  wrongCall: 2,
  unread: 3,
  refused: 4,
  unexpected: 5,
  interrupted: 130,
} as const

export type ExitCode = (typeof EXIT)[keyof typeof EXIT]

/** What keeps a command from doing its work, said for people: the one error class of the program. */
export class Failure extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly details: {
      exit: ExitCode
      hint?: string
      /** The file it is about, and where in it; lines and columns from 1. */
      path?: string
      line?: number
      column?: number
      text?: string
      /** What is added to the same call where the user wants it all the same, or calls that end this. */
      next?: readonly string[]
      cause?: unknown
    },
  ) {
    super(message, { cause: details.cause })
    this.name = 'Failure'
  }

  get exit(): ExitCode {
    return this.details.exit
  }
}

/** Which of several ends of a run counts, the worst first. */
const WORST: readonly ExitCode[] = [
  EXIT.interrupted,
  EXIT.unexpected,
  EXIT.wrongCall,
  EXIT.refused,
  EXIT.unread,
  EXIT.open,
]

/** The exit code of a run in which several hold. */
export function worstExit(codes: readonly number[]): ExitCode {
  return WORST.find((code) => codes.includes(code)) ?? EXIT.done
}

/** A failure as it can be sent from one thread to another. */
export type FailureData = Pick<Failure, 'code' | 'message' | 'details'>

export function failureData(error: unknown): FailureData {
  const { code, message, details } = asFailure(error)
  return { code, message, details: { ...details, cause: undefined } }
}

export function failureFrom({ code, message, details }: FailureData): Failure {
  return new Failure(code, message, details)
}

/** Whatever was thrown, as what is told of it. */
export function asFailure(error: unknown): Failure {
  if (error instanceof Failure) return error
  const { name, message } = error instanceof Error ? error : new Error(String(error))
  if (name === 'AbortError' || name === 'ExitPromptError') {
    const exit = EXIT.interrupted
    return new Failure('run/interrupted', 'interrupted; nothing was written', { exit })
  }
  return new Failure('run/unexpected', `something unforeseen happened: ${message}`, {
    exit: EXIT.unexpected,
    hint: 'nothing was left half-written; please report this with the files that bring it about',
    cause: error,
  })
}

/**
 * An error of the operating system, as a sentence and an exit code; anything else stays what it is.
 *
 * @param namedBy where the path is written, if not in the call
 */
export function systemFailure(
  error: unknown,
  doing: string,
  path: string,
  namedBy?: string,
): unknown {
  if (error instanceof Failure || !(error instanceof Error) || !('code' in error)) return error
  if (error.name === 'AbortError') return error
  const known = SYSTEM[String(error.code)]
  // a code alone is no sign of the system: what unpacks an archive gives codes, too
  if (known === undefined && !('syscall' in error)) return error
  const [why, exit, said] = known ?? [`the system says: ${error.message}`, EXIT.unexpected]
  const hint = said === WRONG_PATH && namedBy !== undefined ? `${said} in ${namedBy}` : said
  return new Failure(
    `system/${String(error.code).toLowerCase()}`,
    `${doing} ${path} failed: ${why}`,
    {
      exit,
      path,
      ...(hint === undefined ? {} : { hint }),
      cause: error,
    },
  )
}

const WRONG_PATH = 'check how the path is written'
const NO_RIGHT = 'let your user open it, or run as the user who may'
const NO_ROOM = 'make room, and run the same again'

/** Errors of the system: what happened, how the run ends, what to do. */
const SYSTEM: Record<string, [why: string, exit: ExitCode, hint: string]> = {
  ENOENT: ['there is no such file or folder', EXIT.wrongCall, WRONG_PATH],
  ENOTDIR: ['a part of the path is a file, not a folder', EXIT.wrongCall, WRONG_PATH],
  EACCES: ['you may not open it', EXIT.unexpected, NO_RIGHT],
  EPERM: ['it is not permitted', EXIT.unexpected, NO_RIGHT],
  EBUSY: [
    'another program holds it open',
    EXIT.unexpected,
    'close the game, the server or the editor that holds it, and run again',
  ],
  ENOSPC: ['the disk is full; nothing was left half-written', EXIT.unexpected, NO_ROOM],
  EDQUOT: [
    'your quota on the disk is used up; nothing was left half-written',
    EXIT.unexpected,
    NO_ROOM,
  ],
  EROFS: [
    'the disk can only be read',
    EXIT.unexpected,
    'name a folder on a disk that can be written',
  ],
  EFBIG: [
    'the file grew beyond what is allowed; nothing was left half-written',
    EXIT.unexpected,
    'allow your user files of that size, or name another disk',
  ],
  EMFILE: [
    'too many files are open',
    EXIT.unexpected,
    'close other programs, or allow more open files',
  ],
  EIO: ['the disk reports an error', EXIT.unexpected, 'check the disk before you run again'],
}
