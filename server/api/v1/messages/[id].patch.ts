import { correctAnswer } from '../../../engine/messages'
import { seesRef } from '../../../engine/seen'

export default defineRoute('PATCH /messages/:id', ({ workspace, person, scope, params: { id }, body: { kind } }) => {
  const row = workspace.store.messages.get(id)
  if (!row || !seesRef(workspace, scope, { object: 'contact', id: row.contactId })) throw notFound(`message ${id}`)
  correctAnswer(workspace, id, kind, person.id)
  return { ok: true }
})
