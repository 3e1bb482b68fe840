import { gather } from '../../core/document/gather.ts'
import { readFileSync } from 'node:fs'
import type { LocatedProblem } from '../../core/report/report.ts'
import { fileProblem } from '../../core/report/report.ts'
import type { Doc } from '../../core/formats/doc.ts'
import { foldName } from '../../core/formats/format.ts'
import { inferredAt, placesIn, untoldBy } from '../../core/identity/places.ts'
import { contentOfFile } from '../content/file-content.ts'
import { EXIT, Failure } from '../failure.ts'
import type { Config, FileRule } from './config.ts'
import { ruleFor } from './file-rule.ts'
import { nearest } from '../../core/keys/nearest.ts'

/** Files by path, with where they are on this disk. */
export type Located = ReadonlyMap<string, string>

/**
 * Holds a config against the files that it is for: tells of patterns and places that fit nothing.
 *
 * @param inputs the files of old, new and mine
 * @throws Failure where an identity does not tell more than half of the entries of its place
 */
export function heldAgainst(config: Config, inputs: readonly Located[]): LocatedProblem[] {
  const { files = [] } = config
  if (files.length === 0) return []
  const paths = [...new Set(inputs.flatMap((files) => [...files.keys()]))]
  const ruled = new Map<FileRule, string[]>()
  for (const path of paths) {
    const rule = ruleFor(config, path)
    if (rule !== undefined) gather(ruled, rule, path)
  }
  return files.flatMap((rule) => {
    const matched = ruled.get(rule)
    if (matched === undefined) return [nothingMatches(rule, paths)]
    return hasPlaces(rule) ? placesHeld(rule, matched, inputs) : []
  })
}

function nothingMatches({ match }: FileRule, paths: readonly string[]): LocatedProblem {
  const near = nearest(match, paths)
  return fileProblem('', {
    severity: 'warning',
    code: 'config/match-fits-nothing',
    message: `the config has rules for ${match}, but no file has such a path, or an earlier rule takes it`,
    ...(near === undefined ? {} : { hint: `did you mean ${near}?` }),
  })
}

function hasPlaces({ identity, list, order, together }: FileRule): boolean {
  return [identity, list, order, together].some((each) => each !== undefined)
}

/** Each place that a rule names, and in which of its members. */
function placesOf({
  identity,
  list,
  order,
  together,
}: FileRule): [member: string, place: string][] {
  const named = { identity, list, order }
  return [
    ...Object.entries(named).flatMap(([member, places]) =>
      Object.keys(places ?? {}).map((place): [string, string] => [member, place]),
    ),
    ...(together ?? []).flat().map((place): [string, string] => ['together', place]),
  ]
}

function placesHeld(
  rule: FileRule,
  paths: readonly string[],
  inputs: readonly Located[],
): LocatedProblem[] {
  const docs = paths.flatMap((path) => {
    const all = inputs.map((files) => documentAt(path, files.get(path), rule))
    const read = all.filter((doc) => doc !== undefined)
    return read.length === 0 ? [] : [{ path, docs: read }]
  })
  if (docs.length === 0) return []
  for (const { path, docs: read } of docs) refuseUntold(path, rule, read)
  const known = new Set(docs.flatMap((each) => each.docs.flatMap((doc) => [...placesIn(doc)])))
  const fold = (place: string): string =>
    docs[0]?.docs[0] === undefined ? place : foldName(docs[0].docs[0].format, place)
  return placesOf(rule)
    .filter(([, place]) => !known.has(fold(place)))
    .map(([member, place]) => noSuchPlace(rule, member, place, known))
}

function noSuchPlace(
  { match }: FileRule,
  member: string,
  place: string,
  known: ReadonlySet<string>,
): LocatedProblem {
  const near = nearest(place, [...known])
  return fileProblem('', {
    severity: 'warning',
    code: 'config/place-fits-nothing',
    message: `the config names ${place} under ${member} of ${match}, and no file has anything there`,
    ...(near === undefined ? {} : { hint: `did you mean ${near}?` }),
  })
}

function refuseUntold(path: string, rule: FileRule, docs: readonly Doc[]): void {
  for (const [place, text] of Object.entries(rule.identity ?? {}))
    for (const doc of docs) {
      const { entries, untold } = untoldBy(doc, place, text)
      if (untold * 2 <= entries) continue
      const inferred = inferredAt(docs, place)
      throw new Failure(
        'config/identity-tells-nothing',
        `${path}: the config tells the entries of ${place} apart by ${text}, but ${untold} of ${entries} lack it or share it with another`,
        {
          exit: EXIT.wrongCall,
          hint:
            inferred === undefined
              ? `take ${place} out of identity; nothing else tells these entries apart`
              : `take ${place} out of identity, or write ${inferred}, which is what would be inferred`,
        },
      )
    }
}

/** A file as a document; undefined where there is none, or where it could not be read as one. */
function documentAt(path: string, location: string | undefined, rule: FileRule): Doc | undefined {
  if (location === undefined) return undefined
  try {
    const named = typeof rule.format === 'string' ? rule.format : undefined
    return contentOfFile(path, readFileSync(location), named).doc
  } catch {
    return undefined // a file that cannot be read is named where it is carried
  }
}
