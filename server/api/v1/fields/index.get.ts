export default defineRoute('GET /fields', ({ workspace, query: { object } }) => {
  const { fields, pipelines } = workspace.catalogue().data
  return { fields: fields.filter((field) => object === undefined || field.object === object), pipelines }
})
