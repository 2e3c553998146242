import { changePipeline } from '../../../../engine/pipelines'

export default defineRoute('PATCH /pipelines/:pipeline', ({ workspace, params: { pipeline: id }, body }) => {
  const pipeline = workspace.catalogue().pipeline(id)
  if (!pipeline) throw notFound(`pipeline ${id}`)
  changePipeline(workspace, pipeline, body)
  return { ok: true }
})
