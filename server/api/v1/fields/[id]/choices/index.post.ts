import { addChoice, fieldOf } from '../../../../../engine/fields'

/** Adds a choice. Asked for again, it gives back the one that is there. */
export default defineRoute('POST /fields/:id/choices', ({ workspace, params: { id }, body: { label } }) => {
  const field = fieldOf(workspace, id)
  if (!field) throw notFound(`field ${id}`)
  return addChoice(workspace, field, label)
})
