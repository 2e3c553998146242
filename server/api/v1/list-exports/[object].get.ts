import { OBJECT_WORDS } from '../../../../core/records/kinds'

/** What is seen of a table as a CSV file. */
export default defineRoute(
  'GET /list-exports/:object',
  async ({ event, workspace, scope, params: { object }, query: { filter, words, sort, down, columns } }) => {
    const text = await useReader().ask('exportSeen', {
      object,
      scope,
      filter: readFilter(filter, object),
      words,
      sort,
      down: down === 'true',
      columns: columns.split(',').filter(Boolean),
    })
    setResponseHeader(event, 'content-type', 'text/csv; charset=utf-8')
    setResponseHeader(
      event,
      'content-disposition',
      `attachment; filename="${OBJECT_WORDS[object].many}-${workspace.today()}.csv"`,
    )
    return text
  },
)
