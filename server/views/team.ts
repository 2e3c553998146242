import { addDays } from '../../core/time/dates'
import { seesRef } from '../engine/seen'
import type { Scope } from '../../core/access/scope'
import type { Workspace } from '../engine/workspace'

/** Day sheets of everybody side by side: who has how much to do, what is late, who is away. */

const DAY_MS = 86_400_000
/** So many late tasks of a person are listed. */
const LATE_SHOWN = 20

export function team(workspace: Workspace, scope: Scope) {
  const { taskLoad } = workspace.store
  const today = workspace.today()
  const nowMs = workspace.clock.nowMs()
  const rules = workspace.store.rules.names()
  const people = workspace
    .catalogue()
    .data.people.filter(({ active, id, role }) => active && (scope === null || scope.has(id)) && role !== 'viewer')
  return {
    today,
    people: people.map(({ id, name, team: of, title, awayFrom, awayTo, deputyId }) => ({
      id,
      name,
      team: of,
      title,
      away:
        awayFrom !== null && awayTo !== null && today >= awayFrom && today <= awayTo ? { to: awayTo, deputyId } : null,
      load: taskLoad.of(id, today, addDays(today, 7), nowMs - 7 * DAY_MS),
      late: taskLoad.late(id, today, LATE_SHOWN).map((task) => {
        const ref = { object: task.object, id: task.recordId }
        return {
          id: task.id,
          title: task.title,
          due: task.due,
          priority: task.priority,
          ref,
          recordName: seesRef(workspace, scope, ref) ? workspace.nameOf(ref) : '',
          ruleName: rules.get(task.ruleId) ?? '',
        }
      }),
    })),
  }
}
