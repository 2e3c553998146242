export default defineRoute('GET /people/:id/planned', ({ workspace, params: { id } }) => {
  if (!workspace.catalogue().person(id)) throw notFound(`person “${id}”`)
  return useReader().ask('planned', id)
})
