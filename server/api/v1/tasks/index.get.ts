import { z } from 'zod'
import { sees } from '../../../auth/scope'
import { daySheet } from '../../../views/day-sheet'

const query = z.object({ person: z.string().max(100).optional() })

export default defineRoute({ route: 'GET /tasks', query }, ({ workspace, person, scope, query: { person: of } }) => {
  if (of !== undefined && (!workspace.catalogue().person(of) || !sees(scope, of))) throw notFound(`person “${of}”`)
  return daySheet(workspace, of ?? person.id, scope)
})
