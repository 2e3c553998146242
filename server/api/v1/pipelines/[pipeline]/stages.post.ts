import { addStage } from '../../../../engine/pipelines'

export default defineRoute('POST /pipelines/:pipeline/stages', ({ workspace, params: { pipeline: id }, body }) => {
  const pipeline = workspace.catalogue().pipeline(id)
  if (!pipeline) throw notFound(`pipeline ${id}`)
  return { id: addStage(workspace, pipeline, body) }
})
