import { behindFigure } from '../../../../../views/results'

const MONTH = /^\d{4}-(?:0[1-9]|1[0-2])$/

export default defineRoute(
  'GET /rules/:id/results/records',
  ({ workspace, scope, params: { id }, query: { figure, alone, of, by = null, value, cursor } }) => {
    const rule = workspace.store.rules.get(id)
    if (!rule) throw notFound(`rule ${id}`)
    if (by === 'month' && !MONTH.test(value))
      throw new ProblemError(422, 'Not a month', `“${value}” is not a month. Write it like 2026-11.`)
    const before = readCursor(cursor)
    const found = behindFigure(workspace, rule, scope, { figure, alone: alone === 'true', of, by, value, before })
    if (!found) throw new ProblemError(422, 'No such figure', `The figure “${figure}” is not counted by ${by}.`)
    return { records: found.records, next: sayCursor(found.more) }
  },
)
