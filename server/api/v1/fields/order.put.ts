export default defineRoute('PUT /fields/order', ({ workspace, body: { object, ids } }) => {
  const own = new Set(
    workspace
      .catalogue()
      .fields(object)
      .map((field) => field.id),
  )
  const strange = ids.find((id) => !own.has(id))
  if (strange !== undefined || new Set(ids).size !== own.size)
    throw new ProblemError(422, 'Not saved', 'Nothing was written.', [
      {
        path: 'ids',
        text: strange === undefined ? 'List every field exactly once.' : `Field ${strange} does not exist.`,
      },
    ])
  workspace.db.atomically(() => workspace.store.catalogue.orderFields(ids))
  workspace.tellCatalogue()
  return { ok: true }
})
