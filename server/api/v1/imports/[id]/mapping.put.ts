import { guessMapping } from '../../../../../core/formats/csv/guess'
import { readCsv } from '../../../../../core/formats/csv/read'

const GUESS_ROWS = 1000

/** Keeps where columns go. When the rows turn out to be something else, the columns are guessed anew. */
export default defineRoute('PUT /imports/:id/mapping', ({ workspace, params: { id }, body }) => {
  const row = workspace.store.imports.get(id)
  if (!row) throw notFound(`import ${id}`)
  if (row.state !== 'ready')
    throw new ProblemError(409, 'Already running', 'The columns of a started import can’t be changed.')
  const mapping =
    body.object === row.mapping.object
      ? body
      : guessMapping(readCsv(row.content, GUESS_ROWS), workspace.catalogue(), body.object)
  workspace.store.imports.setMapping(id, mapping)
  return { ok: true }
})
