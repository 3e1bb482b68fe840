import { existsSync, readFileSync, statSync } from 'node:fs'
import { dirname, join } from 'node:path'
import type { Draft, DraftRecord } from '../draft/draft.ts'
import { writeRecord } from '../draft/draft.ts'
import { hashOf } from '../draft/hash.ts'
import { EXIT, Failure, systemFailure } from '../failure.ts'
import type { Disk } from '../io/disk.ts'
import type { Step } from '../deliver/journal.ts'
import type { Workspace } from '../workspace.ts'
import type { ParcelContent } from './zip-file.ts'
import { writeZip } from './zip-file.ts'

/** The names of what a parcel holds beside the files to be uploaded. */
const LIST = 'anagnosis-parcel.json'
const DELETE = 'DELETE.txt'

/** Names of archives that a folder would bear in vain. */
const OTHER_ARCHIVE = /\.(7z|bz2|gz|rar|tar|tgz|xz)$/i

/** What is to be uploaded to a host, and deleted there. */
export type ParcelList = NonNullable<DraftRecord['parcel']>

/**
 * Writes the files of a draft that are to be uploaded to a host into a folder or a zip archive, with what is to be
 * deleted there. The draft is parcelled then; the variant moves when a fresh download shows that all has arrived.
 */
export async function makeParcel(
  { layout, disk }: Workspace,
  draft: Draft,
  steps: readonly Step[],
  target: string,
): Promise<ParcelList> {
  if (existsSync(target))
    throw new Failure('out/exists', `${target} exists already`, {
      exit: EXIT.refused,
      path: target,
      hint: 'name a folder, or a .zip, for the parcel that is not there yet',
    })
  if (OTHER_ARCHIVE.test(target))
    throw new Failure('call/wrong', `a parcel is a folder or a .zip, and not ${target}`, {
      exit: EXIT.wrongCall,
      path: target,
      hint: 'name a folder, or a file that ends in .zip',
    })
  const { record, location } = draft
  const upload = steps
    .filter((step) => step.do !== 'remove')
    .map(({ path }) => {
      const bytes = readFileSync(join(location, path))
      return { path, bytes: bytes.length, sha256: hashOf(bytes) }
    })
  const list: ParcelList = {
    schema: 1,
    variant: record.variant,
    from: record.from,
    to: record.to,
    upload,
    delete: steps.filter((step) => step.do === 'remove').map(({ path }) => path),
  }
  const content: ParcelContent = {
    files: upload.map(({ path }) => ({ path, location: join(location, path) })),
    texts: [
      { path: LIST, text: `${JSON.stringify(list, null, 1)}\n` },
      { path: DELETE, text: deleteText(list) },
    ],
  }
  const incoming = `${target}.anagnosis-parcel`
  try {
    await disk.remove(incoming)
    if (/\.zip$/i.test(target)) await writeZip(incoming, content, disk)
    else await writeFolder(incoming, content, disk)
    await disk.rename(incoming, target)
  } catch (error) {
    await disk.remove(incoming).catch(() => undefined) // what kept it from being written is told
    throw systemFailure(error, 'Writing the parcel', target)
  }
  draft.record.state = 'parcelled'
  draft.record.parcel = list
  await writeRecord(layout, draft, disk)
  return list
}

async function writeFolder(root: string, { files, texts }: ParcelContent, disk: Disk) {
  for (const { path, location } of files) {
    const place = join(root, path)
    await disk.makeFolder(dirname(place))
    await disk.copyFile(location, place)
  }
  await disk.makeFolder(root)
  for (const { path, text } of texts) await disk.writeWhole(join(root, path), text)
}

function deleteText(list: ParcelList): string {
  if (list.delete.length === 0) return 'Nothing is to be deleted on the host.\r\n'
  const lines = list.delete.map((path) => `${path}\r\n`).join('')
  return `To be deleted on the host, since ${list.to} has it no more:\r\n\r\n${lines}`
}

/** What went wrong with a file on its way to a host. */
export interface ArrivalFinding {
  path: string
  check: 'not-uploaded' | 'not-deleted' | 'cut-short' | 'line-ends' | 'encoding' | 'other'
  message: string
}

/** Compares a fresh download with what was to be uploaded and deleted. */
export function arrivalFindings(draft: Draft, list: ParcelList, folder: string): ArrivalFinding[] {
  const live = new Map(draft.record.files.map((file) => [file.path, file.live]))
  const findings: ArrivalFinding[] = []
  for (const { path, sha256 } of list.upload) {
    const wanted = readFileSync(join(draft.location, path))
    const place = join(folder, path)
    const there = existsSync(place) && statSync(place).isFile() ? readFileSync(place) : undefined
    if (there !== undefined && hashOf(there) === sha256) continue
    findings.push({ path, ...what(wanted, there, live.get(path) ?? null) })
  }
  for (const path of list.delete)
    if (existsSync(join(folder, path)))
      findings.push({
        path,
        check: 'not-deleted',
        message: 'is still there, and was to be deleted',
      })
  return findings
}

function what(
  wanted: Buffer,
  there: Buffer | undefined,
  live: string | null,
): Pick<ArrivalFinding, 'check' | 'message'> {
  if (there === undefined) return { check: 'not-uploaded', message: 'is not there' }
  if (hashOf(there) === live)
    return { check: 'not-uploaded', message: 'is as it was before the upload: it was not uploaded' }
  if (there.length < wanted.length && wanted.subarray(0, there.length).equals(there))
    return {
      check: 'cut-short',
      message: `holds ${there.length} of ${wanted.length} bytes`,
    }
  if (plainLines(there) === plainLines(wanted))
    return { check: 'line-ends', message: 'has other line ends: upload it in binary mode' }
  if (isReencoded(there, wanted))
    return { check: 'encoding', message: 'has another encoding: upload it in binary mode' }
  return { check: 'other', message: 'is another file than the one in the parcel' }
}

function plainLines(bytes: Buffer): string {
  return bytes.toString('latin1').replace(/\r\n?/g, '\n')
}

/** Whether two files are one text in two encodings of those that hosts make of another. */
function isReencoded(there: Buffer, wanted: Buffer): boolean {
  const texts = (bytes: Buffer): string[] =>
    [bytes.toString('utf8'), bytes.toString('latin1'), bytes.toString('utf16le')].map((text) =>
      text.replace(/^\uFEFF/, '').replace(/\r\n?/g, '\n'),
    )
  const known = new Set(texts(wanted))
  return texts(there).some((text) => known.has(text))
}
