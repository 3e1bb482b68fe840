import { keySegments } from '../../keys/key.ts'
import type { FileReport } from '../../report/report.ts'
import type { Finding } from '../../report/finding.ts'
import type { Crossed } from './crossed.ts'
import { crossedIn } from './crossed.ts'
import type { Dangling } from './dangling.ts'
import { danglingIn } from './dangling.ts'
import type { TogetherFiles } from './inputs.ts'
import { TogetherInputs } from './inputs.ts'
import { madeKeys } from './rows.ts'
import type { Twice } from './twice.ts'
import { twiceIn } from './twice.ts'

/** The kind of findings of what holds in old, in new and in mine, and no longer in the result. */
export const TOGETHER_BROKEN = 'together-broken'

/**
 * What two sides broke together, each with a change that is right by itself: relations that hold in all inputs of a carry and not in
 * its result. Nothing need be configured for that.
 */
export function brokenTogether(files: readonly FileReport[], given: TogetherFiles): Finding[] {
  const inputs = new TogetherInputs(given)
  const findings: Finding[] = []
  const all = files.flatMap((file) => {
    const made = madeKeys(file)
    const makers = new Set(made.map(({ maker }) => maker))
    if (makers.size > 1) {
      findings.push(...crossedIn(made, inputs).map((each) => crossedFinding(each)))
      findings.push(...twiceIn(made, inputs).map((each) => twiceFinding(each)))
    }
    return made
  })
  if (new Set(all.map(({ maker }) => maker)).size > 1 || files.some(isGone))
    findings.push(...danglingIn(files, all, inputs).map((each) => danglingFinding(each)))
  return findings.map((each) => placed(each, inputs))
}

function isGone({ outcome }: FileReport): boolean {
  return outcome === 'removed'
}

function placed(found: Finding, inputs: TogetherInputs): Finding {
  const place = inputs.place(found.path, found.key)
  if (place === undefined) return found
  const { line, column } = place.at
  return { ...found, line, column, text: place.text, width: 1 }
}

function finding(
  said: Pick<Finding, 'path' | 'key' | 'message' | 'expected'>,
  nearest: string | null = null,
): Finding {
  return {
    ...said,
    line: null,
    column: null,
    check: TOGETHER_BROKEN,
    severity: 'warning',
    nearest,
  }
}

function crossedFinding({ low, high }: Crossed): Finding {
  const [lowName, highName] = [low.key, high.key].map((key) => keySegments(key).at(-1)?.name ?? '')
  const who = low.maker === 'mine' ? ['yours', "vanilla's"] : ["vanilla's", 'yours']
  return finding(
    {
      path: low.path,
      key: low.key,
      message: `${lowName ?? ''} is ${low.result ?? ''} (${who[0] ?? ''}), and ${highName ?? ''} is ${high.result ?? ''} (${who[1] ?? ''}): in old, in new and in yours it is at most ${highName ?? ''}`,
      expected: `at most ${high.result ?? ''}`,
    },
    high.result,
  )
}

function twiceFinding({ path, value, mine, vanilla }: Twice): Finding {
  return finding({
    path,
    key: mine,
    message: `${value} stands here, which you brought, and at ${vanilla}, which vanilla brought; in old, in new and in yours no such name stands twice`,
    expected: 'a name that no other entry has',
  })
}

function danglingFinding({ path, key, value, gone, what }: Dangling): Finding {
  const [whose, who] = gone === 'mine' ? ["vanilla's", 'you'] : ['your', 'vanilla']
  return finding({
    path,
    key,
    message: `${value} is named here by ${whose} change, and ${who} removed ${what}; in old, in new and in yours every such name leads somewhere`,
    expected: 'a name of something that is there',
  })
}
