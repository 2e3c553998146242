import { checkMapping } from '../../../../core/formats/csv/import'
import { fromKept, guessMapping, headingKey } from '../../../../core/formats/csv/guess'
import { readCsv } from '../../../../core/formats/csv/read'

/** So many rows are enough to guess columns by; the worker reads them all. */
const GUESS_ROWS = 1000

/** Takes a file in and guesses its columns; those of a file with the same headings go where they went then. */
export default defineRoute('POST /imports', ({ workspace, person, body: { fileName, content, object } }) => {
  const table = readCsv(content, GUESS_ROWS)
  if (table.headings.length === 0 || table.rows.length === 0)
    throw new ProblemError(422, 'Empty file', 'The file has no rows.')
  const catalogue = workspace.catalogue()
  const { imports } = workspace.store
  const kept = imports.remembered(headingKey(table.headings))
  const before = kept && fromKept(kept, table.headings)
  const fits =
    before && (object === undefined || before.object === object) && checkMapping(table, before, catalogue).length === 0
  const id = imports.create(
    { fileName, content, mapping: fits ? before : guessMapping(table, catalogue, object), personId: person.id },
    workspace.clock.nowMs(),
  )
  return { id }
})
