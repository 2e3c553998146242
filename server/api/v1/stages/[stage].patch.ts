import { changeStage } from '../../../engine/pipelines'

export default defineRoute('PATCH /stages/:stage', ({ workspace, params: { stage: id }, body }) => {
  const stage = workspace.catalogue().stage(id)
  if (!stage) throw notFound(`stage ${id}`)
  changeStage(workspace, stage, body)
  return { ok: true }
})
