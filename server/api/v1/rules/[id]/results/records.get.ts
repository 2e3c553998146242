import { behindFigure } from '../../../../../views/results'

export default defineRoute(
  'GET /rules/:id/results/records',
  ({ workspace, scope, params: { id }, query: { figure, alone, owner, cursor } }) => {
    const rule = workspace.store.rules.get(id)
    if (!rule) throw notFound(`rule ${id}`)
    const before = readCursor(cursor)
    const { records, more } = behindFigure(workspace, rule, scope, { figure, alone: alone === 'true', owner, before })
    return { records, next: sayCursor(more) }
  },
)
