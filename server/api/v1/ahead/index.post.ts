import { actAhead } from '../../../engine/ahead'

export default defineRoute('POST /ahead', ({ workspace, person, body: { items, reason, ...act } }) => {
  if (act.act === 'postpone' && act.toMs === undefined) throw new ProblemError({ code: 'postponeWhere' })
  if (act.act === 'postpone' && (act.toMs ?? 0) <= workspace.clock.nowMs())
    throw new ProblemError({ code: 'timePassed' })
  return actAhead(
    workspace,
    items,
    act.act === 'postpone' ? { act: 'postpone', toMs: act.toMs ?? 0 } : { act: act.act },
    reason,
    person.id,
  )
})
