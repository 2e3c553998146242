import { writeByHand } from '../../../engine/write-by-hand'
import { seesRef } from '../../../engine/seen'

export default defineRoute('POST /messages', ({ workspace, person, scope, body }) => {
  if (!seesRef(workspace, scope, { object: 'contact', id: body.contactId })) throw notFound(`contact ${body.contactId}`)
  return writeByHand(workspace, body, person)
})
