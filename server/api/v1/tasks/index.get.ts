import { z } from 'zod'
import { daySheet } from '../../../views/day-sheet'

const query = z.object({ person: z.string().max(100).optional() })

export default defineRoute({ act: 'read', query }, ({ workspace, person, query: { person: of } }) => {
  if (of !== undefined && !workspace.catalogue().person(of)) throw notFound(`person “${of}”`)
  return daySheet(workspace, of ?? person.id)
})
