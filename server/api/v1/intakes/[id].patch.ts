import { changeIntake } from '../../../engine/intakes'

export default defineRoute('PATCH /intakes/:id', ({ workspace, params: { id }, body }) => {
  if (!workspace.store.intakes.get(id)) throw notFound(`address ${id}`)
  return changeIntake(workspace, id, body)
})
