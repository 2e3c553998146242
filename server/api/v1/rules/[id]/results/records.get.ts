import { behindFigure } from '../../../../../views/results'

const MONTH = /^\d{4}-(?:0[1-9]|1[0-2])$/

export default defineRoute(
  'GET /rules/:id/results/records',
  ({ workspace, scope, params: { id }, query: { figure, alone, of, by = null, value, cursor } }) => {
    const rule = workspace.store.rules.get(id)
    if (!rule) throw notFound(`rule ${id}`)
    if (by === 'month' && !MONTH.test(value)) throw new ProblemError({ code: 'notMonth', raw: value })
    const before = readCursor(cursor)
    const found = behindFigure(workspace, rule, scope, { figure, alone: alone === 'true', of, by, value, before })
    if (!found) throw new ProblemError({ code: 'noFigure', figure, by })
    return { records: found.records, next: sayCursor(found.more) }
  },
)
