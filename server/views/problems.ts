import { PROBLEMS } from '../problems'
import type { Workspace } from '../engine/workspace'

/** What needs somebody, by kind, the most urgent first; accepted ones behind the others. */
export function problemPage(workspace: Workspace) {
  const { problems, rules } = workspace.store
  const nowMs = workspace.clock.nowMs()
  const names = rules.names()
  const rows = problems.all()
  return {
    open: problems.open(nowMs),
    kinds: PROBLEMS.flatMap(({ kind, title, fix, unit, again }) => {
      const some = rows.filter((row) => row.kind === kind)
      return some.length === 0
        ? []
        : [
            {
              kind,
              title,
              fix,
              unit: unit ?? null,
              again: again !== undefined,
              problems: some.map((row) => {
                const { id, says, count, ruleId, object, recordId, path, sinceMs, personId, acceptedUntil } = row
                const ref = object !== null && object !== 'none' && recordId !== null ? { object, id: recordId } : null
                return {
                  id,
                  says,
                  count,
                  ruleId,
                  ruleName: ruleId === null ? null : (names.get(ruleId) ?? null),
                  ref,
                  recordName: ref && workspace.nameOf(ref),
                  path,
                  sinceMs,
                  personId,
                  acceptedUntil: acceptedUntil !== null && acceptedUntil > nowMs ? acceptedUntil : null,
                  acceptedBy: row.acceptedBy,
                }
              }),
            },
          ]
    }),
  }
}
