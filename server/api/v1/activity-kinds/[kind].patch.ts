import { changeActivityKind, ownActivity } from '../../../engine/activity-kinds'

export default defineRoute('PATCH /activity-kinds/:kind', ({ workspace, params: { kind }, body }) => {
  const own = ownActivity(workspace, kind)
  if (!own) throw notFound(`activity kind ${kind}`)
  changeActivityKind(workspace, own, body)
  return { ok: true }
})
