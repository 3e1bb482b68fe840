import { withLock } from '../io/lock.ts'
import type { Workspace } from '../workspace.ts'
import { refuseHeld } from './held.ts'
import { removeDraft, requireDraft } from './draft.ts'

/** Removes the open draft of a variant; what was decided stays. Gives its name. */
export async function dropDraft({ layout, disk }: Workspace, variant: string): Promise<string> {
  refuseHeld(layout, variant)
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
