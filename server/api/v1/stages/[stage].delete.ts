import { removeStage } from '../../../engine/pipelines'

/** Takes a stage out; its deals go to another one first. */
export default defineRoute('DELETE /stages/:stage', ({ workspace, person, params: { stage: id }, query: { to } }) => {
  const stage = workspace.catalogue().stage(id)
  if (!stage) throw notFound(`stage ${id}`)
  return removeStage(workspace, stage, to ?? null, person.id)
})
