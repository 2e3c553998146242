import { undoOne } from '../../../../engine/undo'
import { sayUndo } from '../../../../views/undo'

/** Takes a run back. Done twice it does no more than once. */
export default defineRoute('POST /runs/:id/undo', ({ workspace, person, params: { id } }) => {
  const said = sayUndo(workspace, id)
  if (!said) throw notFound(`run ${id}`)
  undoOne(workspace, id, person.id)
  return said
})
