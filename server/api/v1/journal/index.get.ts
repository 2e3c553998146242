import { z } from 'zod'
import { RUN_STATES } from '../../../../core/engine/world'
import { journalPage } from '../../../views/journal'

const query = z.object({
  rule: z.coerce.number().int().positive().optional(),
  state: z.enum(RUN_STATES).optional(),
  /** `true` shows runs that ended at their conditions as well. */
  all: z.enum(['true', 'false']).default('false'),
  before: z.coerce.number().int().positive().optional(),
  limit: z.coerce.number().int().min(1).max(200).default(60),
})

export default defineRoute({ route: 'GET /journal', query }, ({ workspace, query: { rule, state, all, before, limit } }) =>
  journalPage(workspace, { ruleId: rule, state, actedOnly: all === 'false', before, limit }))
