export default defineRoute('GET /rehearsals/:id/runs/:run', async ({ params: { id, run } }) => {
  const found = rehearsalOf(id)
  const sheet = found && found.state !== 'running' ? await useRehearsals().ask('rehearsedSheet', { id, run }) : null
  if (!sheet) throw notFound(`run ${run} of rehearsal ${id}`)
  return sheet
})
