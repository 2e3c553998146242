import type { Scope } from '../../core/access/scope'
import { seesRef } from '../engine/seen'
import type { Workspace } from '../engine/workspace'

const MOST = 20

/** What waits for the answer of a person: approvals and questions. A call is made from the day sheet. */
export function askedOf(workspace: Workspace, personId: string, scope: Scope) {
  const { tasks, rules } = workspace.store
  return tasks
    .askedOf(personId, MOST * 2)
    .filter(({ asks }) => asks.about !== 'call')
    .slice(0, MOST)
    .map(({ id, title, object, recordId, ruleId, due, asks }) => {
      const ref = { object, id: recordId }
      return {
        taskId: id,
        title,
        ref,
        recordName: seesRef(workspace, scope, ref) ? workspace.nameOf(ref) : '',
        ruleName: rules.get(ruleId)?.draft.name ?? `rule ${ruleId}`,
        due,
        asks,
      }
    })
}
