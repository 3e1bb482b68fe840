import { z } from 'zod'
import { nearest } from '../keys/nearest.ts'
import type { Found } from './check.ts'
import { checkKind } from './check.ts'
import { common } from './parts.ts'

/** What the names of files and folders may be made of. */
export const names = checkKind({
  kind: 'names',
  schema: z.strictObject({
    names: z.string().min(1).describe('Files, as a pattern: "add-ons/**"'),
    letters: z
      .string()
      .min(1)
      .refine(isAlphabet, 'letters and ranges of letters are expected: "a-z0-9-"')
      .optional()
      .describe('The letters of which names may be made, with ranges: "a-z0-9-"'),
    extensions: z
      .array(z.string().min(1))
      .min(1)
      .optional()
      .describe('The extensions that files may have: [json, xml]'),
    ...common,
  }),
  run({ names: files, letters, extensions }, scope, _, found) {
    const all = scope.filesAt(files)
    if (all.length === 0) found.nothingAt(files)
    const base = fixedPart(files)
    const told = new Set<string>()
    for (const { path } of all) {
      const steps = path.slice(base.length).split('/')
      const name = steps.pop() ?? ''
      let folder = base
      for (const step of steps) {
        folder += `${step}/`
        if (letters === undefined || told.has(folder)) continue
        told.add(folder)
        tellLetters(folder, step, letters, found)
      }
      const { stem, extension } = partsOf(name, extensions)
      if (letters !== undefined) tellLetters(path, stem, letters, found)
      tellExtension(path, name, extension, extensions, found)
    }
  },
})

/** The folders at the beginning of a pattern that have no wildcard. */
function fixedPart(pattern: string): string {
  const steps = pattern.split('/').slice(0, -1)
  const wild = steps.findIndex((step) => /[*?[\]{}()!]/.test(step))
  const fixed = wild < 0 ? steps : steps.slice(0, wild)
  return fixed.map((step) => `${step}/`).join('')
}

function alphabet(letters: string): RegExp {
  return new RegExp(`[^${letters.replace(/[\\\]^]/g, '\\$&')}]`, 'u')
}

function isAlphabet(letters: string): boolean {
  try {
    alphabet(letters)
    return true
  } catch {
    return false
  }
}

function tellLetters(path: string, name: string, letters: string, found: Found): void {
  const strange = alphabet(letters)
  const letter = strange.exec(name)?.[0]
  if (letter === undefined) return
  const near = [name.toLowerCase(), name.trim(), name.toLowerCase().replace(/[\s_]+/g, '-')]
  found.finding(whole(path), {
    message: `${name} has ${letter === ' ' ? 'a blank' : letter} in its name`,
    expected: `a name of ${letters}`,
    nearest: near.find((each) => !strange.test(each)),
  })
}

/** A name without its extension; one hidden behind another belongs to the extension. */
function partsOf(
  name: string,
  extensions: readonly string[] | undefined,
): { stem: string; extension: string } {
  const dot = name.lastIndexOf('.')
  if (dot <= 0) return { stem: name, extension: '' }
  const [stem, extension] = [name.slice(0, dot), name.slice(dot + 1)]
  const hidden = hiddenIn(stem, extensions)
  return hidden === undefined
    ? { stem, extension }
    : { stem: stem.slice(0, -hidden.length - 1), extension }
}

/** Extensions that people mean, where the config names none. */
const MEANT = ['xml', 'json', 'ini', 'cfg', 'lua', 'yaml', 'yml', 'txt']

function hiddenIn(stem: string, extensions: readonly string[] = MEANT): string | undefined {
  const dot = stem.lastIndexOf('.')
  const last = stem.slice(dot + 1).toLowerCase()
  return dot > 0 && extensions.includes(last) ? stem.slice(dot + 1) : undefined
}

function tellExtension(
  path: string,
  name: string,
  extension: string,
  extensions: readonly string[] | undefined,
  found: Found,
): void {
  const before = name.slice(0, name.length - extension.length - 1)
  const hidden = extension === '' ? undefined : hiddenIn(before, extensions)
  if (hidden !== undefined) {
    found.finding(whole(path), {
      message: `${name} ends in .${extension} behind .${hidden}: systems that hide extensions show ${before}`,
      expected: before,
      nearest: before,
    })
    return
  }
  if (extensions === undefined || extensions.includes(extension)) return
  const near =
    nearest(extension, extensions) ?? (extensions.length === 1 ? extensions[0] : undefined)
  const stem = extension === '' ? name : before
  found.finding(whole(path), {
    message:
      extension === '' ? `${name} has no extension` : `${name} has the extension .${extension}`,
    expected: `one of ${extensions.map((each) => `.${each}`).join(', ')}`,
    nearest: near === undefined ? undefined : `${stem}.${near}`,
  })
}

function whole(path: string): { path: string; key: string; at: null } {
  return { path, key: '', at: null }
}
