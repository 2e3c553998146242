import { workspace as table } from '../../db/schema/catalogue'

export default defineRoute('PUT /simulated-answer', ({ workspace, body }) => {
  workspace.db.orm.update(table).set({ simulatedAnswer: body }).run()
  return { ok: true as const }
})
