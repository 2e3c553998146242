import { sayUndo } from '../../../../views/undo'

export default defineRoute('GET /runs/:id/undo', ({ workspace, params: { id } }) => {
  const said = sayUndo(workspace, id)
  if (!said) throw notFound(`run ${id}`)
  return said
})
