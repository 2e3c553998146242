import { actingKey } from '../../../engine/acting'

export default defineRouteAwaiting('POST /bulk-edits', async ({ workspace, person, scope, body }) => {
  writableField(workspace, body)
  return await useBulk().ask('makeBulk', {
    edit: { ...body, filter: fitting(body.filter, body.object), scope },
    personId: person.id,
    key: actingKey(),
  })
})
