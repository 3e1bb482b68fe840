import { createHash } from 'node:crypto'
import { readFile } from 'node:fs/promises'
import { dirname } from 'node:path'
import { stringify } from 'yaml'
import { z } from 'zod'
import type { Remembered } from '../../core/report/remembered.ts'
import { TAKES_OF_DECISIONS } from '../../core/report/remembered.ts'
import { EXIT, Failure, systemFailure } from '../failure.ts'
import type { Disk } from '../io/disk.ts'
import { nodeAt, readYaml, shownSteps } from '../read-yaml.ts'
import { zodFault } from '../zod-words.ts'
import { refuseNewer } from '../state/state-file.ts'

/** Who made a decision: `settle`, an edit of the draft by hand, or another file of decisions. */
const MADE_BY = ['settle', 'hand', 'from'] as const

const text = z.string().nullable()

const decision = z.strictObject({
  path: z.string().min(1),
  key: z.string(),
  id: z
    .string()
    .regex(/^[0-9a-f]{12}$/)
    .optional(),
  old: text,
  new: text,
  mine: text,
  take: z.enum(TAKES_OF_DECISIONS),
  value: z.string().optional(),
  from: z.string(),
  to: z.string(),
  by: z.enum(MADE_BY),
})

const decisionsFile = z.strictObject({ schema: z.literal(1), decisions: z.array(decision) })

/** What was decided for one key of one file, when, and by whom. */
export type Decided = z.infer<typeof decision>

/** The decisions of a variant, as its file holds them. */
export class Decisions {
  private constructor(
    private readonly path: string,
    readonly all: readonly Decided[],
  ) {}

  /** Reads a file of decisions; there are none where there is no file. @throws Failure where it cannot be read */
  static async read(path: string): Promise<Decisions> {
    let source: string
    try {
      source = await readFile(path, 'utf8')
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code === 'ENOENT') return new Decisions(path, []) // what readFile throws has a code
      throw systemFailure(error, 'Reading the decisions', path)
    }
    return new Decisions(path, parsed(source, path))
  }

  /** The same with other decisions; of two for one key the later one counts. */
  with(more: readonly Decided[]): Decisions {
    return new Decisions(this.path, [...byPlace([...this.all, ...more]).values()].sort(inOrder))
  }

  without(isGone: (decision: Decided) => boolean): Decisions {
    return new Decisions(
      this.path,
      this.all.filter((each) => !isGone(each)),
    )
  }

  /** What was decided, by the path of the file. */
  get byPath(): ReadonlyMap<string, readonly Remembered[]> {
    const paths = new Map<string, Remembered[]>()
    for (const { path, ...each } of this.all) {
      const known = paths.get(path)
      if (known === undefined) paths.set(path, [each])
      else known.push(each)
    }
    return paths
  }

  /** The files that are as somebody edited them by hand. */
  get wholeFiles(): string[] {
    return this.all
      .filter(({ key, take }) => key === '' && take === 'source')
      .map(({ path }) => path)
  }

  get text(): string {
    const content = { schema: 1, decisions: this.all }
    return stringify(content, { lineWidth: 0, aliasDuplicateObjects: false })
  }

  /** SHA-256 of the decisions, whatever the form of their file is. */
  get hash(): string {
    return createHash('sha256').update(this.text).digest('hex')
  }

  async write(disk: Disk): Promise<void> {
    try {
      await disk.makeFolder(dirname(this.path))
      await disk.writeWhole(this.path, this.text)
    } catch (error) {
      throw systemFailure(error, 'Writing the decisions', this.path)
    }
  }
}

function byPlace(all: readonly Decided[]): Map<string, Decided> {
  return new Map(all.map((each) => [`${each.path}\0${each.key}`, each]))
}

function inOrder(a: Decided, b: Decided): number {
  if (a.path !== b.path) return a.path < b.path ? -1 : 1
  return a.key < b.key ? -1 : 1
}

function parsed(source: string, path: string): Decided[] {
  const { document, lines, content, fault } = readYaml(source)
  if (fault !== undefined) {
    const { line, col } = lines.linePos(fault.at)
    throw malformed(path, source, fault.message, line, col)
  }
  refuseNewer(path, content)
  const read = decisionsFile.safeParse(content)
  if (read.success) return [...byPlace(read.data.decisions).values()].sort(inOrder)
  const [issue] = read.error.issues
  if (issue === undefined) throw new Error('no issue')
  const where = issue.path.filter((step) => typeof step !== 'symbol')
  const { line, col } = lines.linePos(nodeAt(document, where)?.range?.[0] ?? 0)
  const said = [shownSteps(where), zodFault(issue)].filter((part) => part !== '').join(': ')
  throw malformed(path, source, said, line, col)
}

function malformed(
  path: string,
  source: string,
  why: string,
  line: number,
  column: number,
): Failure {
  return new Failure('decisions/malformed', `the decisions cannot be read: ${why}`, {
    exit: EXIT.unread,
    path,
    line: Math.max(1, line),
    column: Math.max(1, column),
    text: source.split(/\r\n|\r|\n/)[line - 1] ?? '',
    hint: 'mend the file, or take it back from version control; nothing was changed',
  })
}
