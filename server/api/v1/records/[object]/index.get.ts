import { z } from 'zod'
import { allConditions, EMPTY_GROUP, zGroup } from '../../../../../core/conditions/document'
import { OPERATORS } from '../../../../../core/conditions/operators'
import { OBJECTS } from '../../../../../core/records/kinds'
import { ledgerPage } from '../../../../views/ledger'

const params = z.object({ object: z.enum(OBJECTS) })
const query = z.object({
  /** A group of conditions as JSON. */
  filter: z.string().max(20_000).optional(),
  words: z.string().max(100).default(''),
  sort: z.string().max(100).default('name'),
  down: z.enum(['true', 'false']).default('false'),
  offset: z.coerce.number().int().min(0).max(10_000_000).default(0),
  limit: z.coerce.number().int().min(1).max(500).default(100),
})

function readFilter(text: string | undefined) {
  if (text === undefined || text === '') return EMPTY_GROUP
  let given: unknown
  try {
    given = JSON.parse(text)
  } catch {
    throw new ProblemError(400, 'The request does not fit', 'The filter is not JSON.', [{ path: 'filter', text: 'is not JSON' }])
  }
  const read = zGroup.safeParse(given)
  const wrong = read.success ? allConditions(read.data).find((condition) => !OPERATORS[condition.op].params.safeParse(condition.params).success) : undefined
  if (!read.success || wrong) {
    throw new ProblemError(400, 'The request does not fit', 'The filter cannot be read.', [{ path: 'filter', text: wrong ? `condition ${wrong.id} does not fit` : (read.error?.issues[0]?.message ?? '') }])
  }
  return read.data
}

export default defineRoute({ route: 'GET /records/:object', params, query }, ({ workspace, scope, params: { object }, query: { filter, words, sort, down, offset, limit } }) =>
  ledgerPage(workspace, { object, scope, filter: readFilter(filter), words, sort, down: down === 'true', offset, limit }))
