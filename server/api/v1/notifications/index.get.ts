import { ACTS } from '../../../../core/access/acts'
import { askedOf } from '../../../views/asked'

/** Of those that one line stands for so many are listed. */
const MORE_MOST = 20

export default defineRoute('GET /notifications', ({ workspace, person, scope, query: { cursor, limit } }) => {
  const { notices, rules } = workspace.store
  const rows = notices.of(person.id, readCursor(cursor), limit + 1)
  const shown = rows.slice(0, limit)
  return {
    unread: notices.unread(person.id),
    problems: ACTS[person.role].includes('readRules') ? workspace.store.problems.open(workspace.clock.nowMs()) : 0,
    asked: askedOf(workspace, person.id, scope),
    notices: shown.map((row) => {
      const others = notices.bundledWith(row.id, MORE_MOST)
      return {
        id: row.id,
        atMs: row.atMs,
        subject: row.subject,
        body: row.body,
        ref: { object: row.object, id: row.recordId },
        recordName: workspace.nameOf({ object: row.object, id: row.recordId }),
        ruleId: row.ruleId,
        ruleName: rules.get(row.ruleId)?.draft.name ?? `rule ${row.ruleId}`,
        runId: row.runId,
        read: row.readAt !== null,
        moreCount: others.count,
        more: others.rows.map(({ object, recordId, subject, runId }) => ({
          ref: { object, id: recordId },
          recordName: workspace.nameOf({ object, id: recordId }),
          subject,
          runId,
        })),
      }
    }),
    next: sayCursor(rows.length > limit ? (shown.at(-1)?.id ?? null) : null),
  }
})
