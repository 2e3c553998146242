export default defineRoute('GET /rehearsals/:id', ({ params: { id } }) => {
  const found = rehearsalOf(id)
  if (!found) throw notFound(`rehearsal ${id}`)
  const { name, state, progress, text } = found
  return { id, name, state, progress, text }
})
