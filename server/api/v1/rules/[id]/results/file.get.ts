import { ruleResults } from '../../../../../views/results'
import { resultsCsv } from '../../../../../views/results-csv'

export default defineRoute('GET /rules/:id/results/file', ({ event, workspace, params: { id } }) => {
  const rule = workspace.store.rules.get(id)
  if (!rule) throw notFound(`rule ${id}`)
  setResponseHeader(event, 'content-type', 'text/csv; charset=utf-8')
  setResponseHeader(event, 'content-disposition', `attachment; filename="results-of-rule-${id}.csv"`)
  return resultsCsv(ruleResults(workspace, rule))
})
