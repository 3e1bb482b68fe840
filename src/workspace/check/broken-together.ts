import { existsSync, statSync } from 'node:fs'
import { join } from 'node:path'
import type { Finding } from '../../core/report/finding.ts'
import { brokenTogether } from '../../core/checks/together/index.ts'
import type { Side, Triple } from '../../core/document/sides.ts'
import { NEW, OLD, triple } from '../../core/document/sides.ts'
import type { Doc } from '../../core/formats/doc.ts'
import type { CarryReport } from '../../core/report/report.ts'
import type { Config } from '../config/config.ts'
import { ruleFor } from '../config/file-rule.ts'
import { loadTables } from '../content/codec.ts'
import type { FileTree } from '../tree.ts'
import { readBytes } from '../tree.ts'
import { readChecked } from './checked-file.ts'

/** What a carry read and wrote. */
export interface CarriedTrees {
  trees: Triple<FileTree>
  config: Config
  /** Where the result is; undefined where nothing was written. A single file stands there itself. */
  location: string | undefined
}

/** What holds in old, in new and in mine, and no longer in the result. Few files are read, and only where there is a suspicion. */
export async function findBrokenTogether(
  { files }: CarryReport,
  carried: CarriedTrees,
): Promise<Finding[]> {
  const isTable = (encoding = 'utf-8'): boolean => !encoding.startsWith('utf-')
  if (files.some(({ reading }) => isTable(reading?.encoding))) await loadTables()
  const reports = new Map(files.map((file) => [file.path, file]))
  const inputs = new InputDocs(carried, (path) => reports.get(path)?.was)
  return brokenTogether(files, {
    input: (side, path) => inputs.at(side, path),
    result: (path) => inputs.result(path),
    paths: (side) => inputs.paths[side],
    identity: (path) => reports.get(path)?.reading?.identities ?? new Map(),
  })
}

/** The documents of a carry; each is read when it is first asked for, and once. */
class InputDocs {
  readonly paths: Triple<ReadonlySet<string>>
  private readonly known = new Map<string, Doc | undefined>()

  constructor(
    private readonly carried: CarriedTrees,
    private readonly wasOf: (path: string) => string | undefined,
  ) {
    this.paths = triple((side) => new Set(carried.trees[side].keys()))
  }

  at(side: Side, path: string): Doc | undefined {
    return this.once(`${side} ${path}`, () => this.read(path, this.bytes(side, path)))
  }

  result(path: string): Doc | undefined {
    const { location } = this.carried
    if (location === undefined) return undefined
    const inside = join(location, ...path.split('/'))
    const place = existsSync(inside) ? inside : location
    return this.once(`result ${path}`, () =>
      statSync(place, { throwIfNoEntry: false })?.isFile() === true
        ? this.read(path, readBytes(place))
        : undefined,
    )
  }

  private read(path: string, bytes: Buffer | undefined): Doc | undefined {
    if (bytes === undefined) return undefined
    const vanilla = this.bytes(OLD, path) ?? this.bytes(NEW, path)
    return readChecked(path, bytes, ruleFor(this.carried.config, path), vanilla).doc
  }

  private bytes(side: Side, path: string): Buffer | undefined {
    const tree = this.carried.trees[side]
    const was = this.wasOf(path)
    const entry = tree.get(path) ?? (was === undefined ? undefined : tree.get(was))
    return entry?.kind === 'file' ? readBytes(entry.location) : undefined
  }

  private once(name: string, read: () => Doc | undefined): Doc | undefined {
    if (!this.known.has(name)) this.known.set(name, read())
    return this.known.get(name)
  }
}
