export default defineRouteAwaiting('POST /bulk-edits/preview', async ({ workspace, scope, body }) => {
  writableField(workspace, body)
  return await useReader().ask('previewBulk', { ...body, filter: fitting(body.filter, body.object), scope })
})
