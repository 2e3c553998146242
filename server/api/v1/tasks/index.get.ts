import { seesRef } from '../../../engine/seen'
import { sees, seesQueue } from '../../../../core/access/scope'

/** Tasks as they are, for programs; the day sheet has them in the order to do them. */
export default defineRoute(
  'GET /tasks',
  ({ workspace, scope, query: { person, queue, state, rule, cursor, limit } }) => {
    if (person !== undefined && (!workspace.catalogue().person(person) || !sees(scope, person)))
      throw notFound(`person “${person}”`)
    if (queue !== undefined && !seesQueue(scope, queue, workspace.catalogue())) throw notFound(`queue of “${queue}”`)
    const rows = workspace.store.tasks.list({
      people: person === undefined ? scope && [...scope] : [person],
      queue,
      state,
      ruleId: rule,
      before: readCursor(cursor),
      limit: limit + 1,
    })
    const shown = rows.slice(0, limit)
    return {
      tasks: shown.map(({ object, recordId, taskKind, stepId: _step, ...task }) => ({
        ...task,
        // Why it is there tells of the record.
        because: seesRef(workspace, scope, { object, id: recordId }) ? task.because : '',
        ref: { object, id: recordId },
        kind: taskKind,
      })),
      next: sayCursor(rows.length > limit ? (shown.at(-1)?.id ?? null) : null),
    }
  },
)
