import { sees } from '../../../core/access/scope'
import { daySheet } from '../../views/day-sheet'

export default defineRoute('GET /day-sheet', ({ workspace, person, scope, query: { person: of } }) => {
  if (of !== undefined && (!workspace.catalogue().person(of) || !sees(scope, of))) throw notFound(`person “${of}”`)
  return daySheet(workspace, of ?? person.id, scope)
})
