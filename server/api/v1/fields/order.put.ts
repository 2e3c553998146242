export default defineRoute('PUT /fields/order', ({ workspace, body: { object, ids } }) => {
  const own = new Set(
    workspace
      .catalogue()
      .fields(object)
      .map((field) => field.id),
  )
  const strange = ids.find((id) => !own.has(id))
  if (strange !== undefined || new Set(ids).size !== own.size)
    throw new ProblemError(strange === undefined ? { code: 'fieldsOnce' } : { code: 'fieldUnknown', id: strange })
  workspace.db.atomically(() => workspace.store.catalogue.orderFields(ids))
  workspace.tellCatalogue()
  return { ok: true }
})
