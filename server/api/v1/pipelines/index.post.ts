import { makePipeline } from '../../../engine/pipelines'

export default defineRoute('POST /pipelines', ({ workspace, body: { name, stages } }) => ({
  id: makePipeline(workspace, name, stages),
}))
