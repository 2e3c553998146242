import { z } from 'zod'
import { board } from '../../../views/board'

const params = z.object({ pipeline: z.string().max(100) })
const query = z.object({ owner: z.string().max(100).optional() })

export default defineRoute({ route: 'GET /boards/:pipeline', params, query }, ({ workspace, scope, params: { pipeline }, query: { owner } }) => {
  if (!workspace.catalogue().pipeline(pipeline)) throw notFound(`pipeline “${pipeline}”`)
  return { stages: board(workspace, pipeline, owner ?? null, scope) }
})
