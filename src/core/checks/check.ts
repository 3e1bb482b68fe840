import type { z } from 'zod'
import type { Scope, Standing } from './scope.ts'

/** What is known beside the files. */
export interface CheckContext {
  /** The version of the game that the files are for; undefined where nothing says which that is. */
  gameVersion: string | undefined
  /** Whether the files are of a release or of a later one; undefined where nobody knows. */
  isSince: (release: string) => boolean | undefined
}

/** Takes in what one check finds. */
export interface Found {
  /** Something that is not as it should be. @param said what is wrong, what is expected and which right value is near */
  finding: (at: Pick<Standing, 'path' | 'key' | 'at'>, said: Said) => void
  /** A place of the check at which nothing stands, so that nothing was checked. */
  nothingAt: (place: string) => void
  /** Why the check could not be made. */
  notMade: (why: string) => void
}

export interface Said {
  message: string
  expected?: string | undefined
  nearest?: string | undefined
}

/** A kind of check, as the config names it. */
export interface CheckKind<Schema extends z.ZodType = z.ZodType> {
  /** The word that tells it from the others: a member of its mapping in the config. */
  kind: string
  schema: Schema
  run: (check: z.infer<Schema>, scope: Scope, context: CheckContext, found: Found) => void
}

/** Infers what the config of a kind looks like from its schema. */
export function checkKind<Schema extends z.ZodType>(kind: CheckKind<Schema>): CheckKind<Schema> {
  return kind
}
