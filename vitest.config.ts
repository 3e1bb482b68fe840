import { accessSync, constants, statfsSync } from 'node:fs'
import { availableParallelism } from 'node:os'
import { defineConfig } from 'vitest/config'
import type { TestSpecification } from 'vitest/node'
import { BaseSequencer } from 'vitest/node'
import { COMPILE_LATER } from './test/flags.ts'
import { ONE_MODULES, oneModule } from './test/one-module.ts'

/** What takes longest: where it began last, one core would wait for the other. */
const LONG = /(golden|laws|edited-cases|short-ways|lists|update|killed|screen|workspace)\.test\.ts$/

class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const sorted = await super.sort(files)
    const isLong = ({ moduleId }: TestSpecification): boolean => LONG.test(moduleId)
    return [...sorted.filter(isLong), ...sorted.filter((file) => !isLong(file))]
  }
}

/** The least free bytes with which a disk in memory takes the folders of the tests. */
const ROOM = 2 * 2 ** 30

/**
 * Where the tests and the programs that they run make their folders: in memory where Linux has such a disk. Each
 * write of the product waits until the disk has what was written, and on a real one the tests mostly wait.
 */
function placeForFolders(): { TMPDIR?: string } {
  if (process.env.TMPDIR !== undefined || process.platform !== 'linux') return {}
  try {
    accessSync('/dev/shm', constants.W_OK)
    const { bavail, bsize } = statfsSync('/dev/shm')
    return bavail * bsize > ROOM ? { TMPDIR: '/dev/shm' } : {}
  } catch {
    return {}
  }
}

export default defineConfig({
  plugins: [oneModule],
  test: {
    include: ['test/**/*.test.ts'],
    server: { deps: { external: [ONE_MODULES] } },
    testTimeout: 120_000,
    // each test is a module with a copy of ours of its own: a worker may go on with the next one
    isolate: false,
    // by default one core is left to others, and with two cores that is half of them
    maxWorkers: Math.max(1, availableParallelism()),
    env: placeForFolders(),
    // laws make much that lives short: with a bigger nursery, swept by the worker itself, they take a seventh less
    execArgv: ['--max-semi-space-size=64', '--single-threaded-gc', COMPILE_LATER],
    reporters: ['default'],
    sequence: { sequencer: LongestFirst },
  },
})
