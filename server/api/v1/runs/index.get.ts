import { journalPage } from '../../../views/journal'

export default defineRoute('GET /runs', ({ workspace, query: { rule, state, bundle, all, cursor, limit } }) => {
  const { lines, next } = journalPage(workspace, {
    ruleId: rule,
    state,
    bundle,
    actedOnly: all === 'false',
    before: readCursor(cursor) ?? undefined,
    limit,
  })
  return { lines, next: sayCursor(next) }
})
