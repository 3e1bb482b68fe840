import type { Guessed } from '../core/facts/guessed.ts'
import type { GuessedDocument } from './vanilla-document.ts'

export function guessedJson(guessed: Guessed, next: readonly string[]): GuessedDocument {
  return {
    command: 'vanilla guess',
    schema: 1,
    release: guessed.release ?? null,
    clean: guessed.isClean,
    equals: guessed.equals,
    others: guessed.others,
    missing: guessed.missing,
    files: guessed.files.map(({ path, releases, share, isClean, differs, isOwn }) => ({
      path,
      releases,
      share: Math.round(share * 1e4) / 1e4,
      clean: isClean,
      differs,
      own: isOwn,
    })),
    problems: [],
    next: [...next],
  }
}
