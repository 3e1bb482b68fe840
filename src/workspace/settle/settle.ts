import type { SettleState } from '../../core/facts/settled.ts'
import { whileFinished } from '../deliver/back-up-and-put.ts'
import type { Variant, Workspace } from '../workspace.ts'
import type { SettleRequest } from './answering.ts'
import { Answering } from './answering.ts'
import { SettleSession } from './session.ts'
import { addSheets } from './sheet.ts'
import { closedKeys, stateOf } from './state.ts'

/** Decides keys of a variant's draft, and tells where the draft stands. */
export async function settle(
  workspace: Workspace,
  variant: Variant,
  request: SettleRequest,
): Promise<SettleState> {
  return whileFinished(workspace, variant, async () => {
    const session = await SettleSession.open(workspace, variant)
    const answering = new Answering(session)
    const { closed, notApplied } = await answering.done(request)
    const lookedAt = request.lookedAt === undefined ? 0 : await answering.look(request.lookedAt)
    const isList = request.take === undefined && request.from === undefined
    const inAll = closedKeys(session.draft, session.decisions)
    const state = stateOf(session.draft, {
      closed: isList ? inAll : closed,
      closedInAll: inAll.length,
      notApplied,
      lookedAt,
      problems: session.problems,
    })
    if (isList) await addSheets(session, state.questions)
    return state
  })
}
