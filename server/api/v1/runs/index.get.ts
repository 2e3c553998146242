import { journalPage } from '../../../views/journal'

export default defineRoute('GET /runs', ({ workspace, query: { rule, state, bundle, all, cursor, limit } }) => {
  const place = readPlace(cursor, 2)
  const { lines, next } = journalPage(workspace, {
    ruleId: rule,
    state,
    bundle,
    actedOnly: all === 'false',
    ...(place ? { before: { atMs: place[0] ?? 0, id: place[1] ?? 0 } } : {}),
    limit,
  })
  return { lines, next: sayCursor(next && [next.atMs, next.id]) }
})
