import { fieldOf, removeChoice } from '../../../../../engine/fields'

/** Takes a choice out, or merges it into another one. */
export default defineRoute(
  'DELETE /fields/:id/choices/:choice',
  ({ workspace, person, params: { id, choice }, query: { into } }) => {
    const field = fieldOf(workspace, id)
    if (!field?.choices.some((one) => one.id === choice)) throw notFound(`choice ${choice}`)
    return removeChoice(workspace, field, choice, into ?? null, person.id)
  },
)
