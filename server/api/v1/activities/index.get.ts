import { seesRef } from '../../../engine/seen'

/** What happened around records, the newest first. */
export default defineRoute('GET /activities', ({ workspace, scope, query: { cursor, limit } }) => {
  const before = cursor === undefined ? null : Number(cursor)
  const found = workspace.store.activities.list(Number.isSafeInteger(before) ? before : null, limit)
  const last = found.at(-1)
  return {
    activities: found.flatMap((one) =>
      seesRef(workspace, scope, one.ref) ? [{ ...one, name: workspace.nameOf(one.ref) }] : [],
    ),
    next: last && found.length === limit ? String(last.id) : null,
  }
})
