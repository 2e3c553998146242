import { actAhead } from '../../../engine/ahead'

export default defineRoute('POST /ahead', ({ workspace, person, body: { items, reason, ...act } }) => {
  if (act.act === 'postpone' && act.toMs === undefined)
    throw new ProblemError(422, 'Not saved', 'Choose a date to postpone to.', [
      { path: 'toMs', text: 'Choose a date to postpone to.' },
    ])
  if (act.act === 'postpone' && (act.toMs ?? 0) <= workspace.clock.nowMs())
    throw new ProblemError(422, 'Not saved', 'Choose a time in the future.', [
      { path: 'toMs', text: 'Choose a time in the future.' },
    ])
  return actAhead(
    workspace,
    items,
    act.act === 'postpone' ? { act: 'postpone', toMs: act.toMs ?? 0 } : { act: act.act },
    reason,
    person.id,
  )
})
