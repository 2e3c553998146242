import { seesRecord } from '../../../../core/access/scope'

/** What happened around records, the newest first. */
export default defineRoute('GET /activities', ({ workspace, scope, query: { cursor, limit } }) => {
  const before = cursor === undefined ? null : Number(cursor)
  const found = workspace.store.happenings.list(Number.isSafeInteger(before) ? before : null, limit)
  const last = found.at(-1)
  return {
    happenings: found.flatMap((one) => {
      const record = workspace.store.records.read(one.ref)
      return record && !seesRecord(scope, record.values) ? [] : [{ ...one, name: workspace.nameOf(one.ref) }]
    }),
    next: last && found.length === limit ? String(last.id) : null,
  }
})
