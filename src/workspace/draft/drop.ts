import { withLock } from '../io/lock.ts'
import type { Workspace } from '../workspace.ts'
import { removeDraft, requireDraft } from './draft.ts'

/** Removes the open draft of a variant; what was decided stays. Gives its name. */
export async function dropDraft({ layout, disk }: Workspace, variant: string): Promise<string> {
  return withLock(
    layout.root,
    async () => {
      const { name } = await requireDraft(layout, variant)
      await removeDraft(layout, name, disk)
      return name
    },
    disk,
  )
}
