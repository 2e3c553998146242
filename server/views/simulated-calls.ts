import type { Scope } from '../../core/access/scope'
import type { RecordRef } from '../../core/records/kinds'
import { readCallKey } from '../engine/place-call'
import { seesRef } from '../engine/seen'
import type { Workspace } from '../engine/workspace'
import { callRows } from '../stand-ins/phone'

const SHOWN = 60

/** Calls that reached the simulated phone: those that ring first, then the newest. */
export function simulatedCalls(workspace: Workspace, scope: Scope) {
  const { tasks } = workspace.store
  const names = workspace.store.rules.names()
  return {
    calls: callRows(workspace.db, SHOWN * 3)
      .flatMap((row) => {
        const task = tasks.get(readCallKey(row.key)?.taskId ?? 0)
        if (task?.asks?.about !== 'call') return []
        const ref: RecordRef = task.asks.contact
        if (!seesRef(workspace, scope, ref)) return []
        const { key, number, name, script, receivedAt: atMs, result } = row
        const { attempt, most } = task.asks
        // A try that was followed by another one rings no more.
        return [
          {
            key,
            number,
            name,
            script,
            atMs,
            result,
            ref,
            attempt: readCallKey(key)?.attempt ?? attempt,
            most,
            runId: task.runId,
            ruleName: names.get(task.ruleId) ?? '',
          },
        ]
      })
      .slice(0, SHOWN),
  }
}
