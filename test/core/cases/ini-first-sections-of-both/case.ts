import type { Case } from '../case.ts'

export default {
  title: 'what stands first in its file and second in the result stands behind a blank line, as all others do',
  conflicts: [{ key: '"Gear Lamp"', kind: 'gone-in-vanilla', perhaps: { key: '"Tool Lamp"' } }],
} satisfies Case
