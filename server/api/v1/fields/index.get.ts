import { isShown } from '../../../../core/fields/field'

export default defineRoute('GET /fields', ({ workspace, query: { object } }) => {
  const { fields, pipelines } = workspace.catalogue().data
  return {
    fields: fields.filter((field) => isShown(field) && (object === undefined || field.object === object)),
    pipelines,
  }
})
