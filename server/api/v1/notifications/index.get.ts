export default defineRoute('GET /notifications', ({ workspace, person, query: { cursor, limit } }) => {
  const { notices, rules } = workspace.store
  const rows = notices.of(person.id, readCursor(cursor), limit + 1)
  const shown = rows.slice(0, limit)
  return {
    unread: notices.unread(person.id),
    notices: shown.map((row) => ({
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
    })),
    next: sayCursor(rows.length > limit ? (shown.at(-1)?.id ?? null) : null),
  }
})
