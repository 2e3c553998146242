import { OBJECT_WORDS } from '../../../../core/records/kinds'

/** All records of a kind as a CSV file that, brought in again, changes nothing. */
export default defineRoute('GET /exports/:object', async ({ event, workspace, params: { object } }) => {
  const text = await useBulk().ask('export', object)
  setResponseHeader(event, 'content-type', 'text/csv; charset=utf-8')
  setResponseHeader(
    event,
    'content-disposition',
    `attachment; filename="${OBJECT_WORDS[object].many}-${workspace.today()}.csv"`,
  )
  return text
})
