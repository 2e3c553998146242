export default defineRoute('POST /rehearsals/:id/stop', ({ params: { id } }) => {
  const found = rehearsalOf(id)
  if (!found) throw notFound(`rehearsal ${id}`)
  if (found.state === 'running') useRehearsals().endRehearsal(id)
  return { ok: true }
})
