/** The refused rows as a CSV of the same shape, with the reason at the end, to be mended and brought in again. */
export default defineRoute('GET /imports/:id/refused', async ({ event, workspace, params: { id } }) => {
  const row = workspace.store.imports.get(id)
  if (!row) throw notFound(`import ${id}`)
  if (!row.hasFile) throw new ProblemError({ code: 'importedFileGone' })
  const text = await useBulk().ask('refused', id)
  setResponseHeader(event, 'content-type', 'text/csv; charset=utf-8')
  setResponseHeader(event, 'content-disposition', `attachment; filename="refused-rows-${id}.csv"`)
  return text
})
