import { z } from 'zod'
import { readCsv } from '../../../../core/formats/csv/read'
import { guessMapping } from '../../../../core/formats/csv/guess'

const CONTENT_MOST = 32_000_000
/** So many rows are enough to guess columns by; the worker reads them all. */
const GUESS_ROWS = 1000
const body = z.strictObject({ fileName: z.string().trim().min(1).max(300), content: z.string().max(CONTENT_MOST, 'is larger than 32 MB') })

/** Takes a file in and guesses its columns. Nothing is written to records yet. */
export default defineRoute({ route: 'POST /imports', body }, ({ workspace, person, body: { fileName, content } }) => {
  const table = readCsv(content, GUESS_ROWS)
  if (table.headings.length === 0 || table.rows.length === 0) throw new ProblemError(422, 'Nothing to bring in', 'The file has no rows below its headings.')
  const mapping = guessMapping(table, workspace.catalogue())
  const id = workspace.store.imports.create({ fileName, content, mapping, personId: person.id }, workspace.clock.nowMs())
  return { id }
})
