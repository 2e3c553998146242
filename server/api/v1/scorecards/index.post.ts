import { makeCard } from '../../../engine/scorecards'

export default defineRoute('POST /scorecards', ({ workspace, person, body: { object, ...card } }) => ({
  id: makeCard(workspace, object, card, person.id),
}))
