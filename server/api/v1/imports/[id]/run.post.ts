import { z } from 'zod'
import { previewImport, runImport } from '../../../../engine/import'

const body = z.strictObject({ rulesOn: z.boolean() })

/** Writes the import. Answers when it is under way; open screens hear how far it has come. */
export default defineRoute({ route: 'POST /imports/:id/run', params: zIdParam, body }, ({ workspace, params: { id }, body: { rulesOn } }) => {
  const row = workspace.store.imports.get(id)
  if (!row) throw notFound(`import ${id}`)
  if (row.state !== 'ready') throw new ProblemError(409, 'Under way already', 'This import has been started before.')
  const { mappingProblems } = previewImport(workspace, row)
  if (mappingProblems.length > 0) {
    throw new ProblemError(422, 'Refused', 'The columns do not fit yet.', mappingProblems.map(({ heading, text }) => ({ path: heading, text })))
  }
  runImport(workspace, id, rulesOn).catch((error: unknown) => console.error(`import ${id} stopped and goes on at the next start:`, error))
  return { state: 'running' }
})
