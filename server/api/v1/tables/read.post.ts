import { readDmn } from '../../../../core/formats/dmn'
import { sayProblem } from '../../../../core/language/problems'
import { stepOf } from '../../../../core/rules/edit'
import { catalogues } from '../../../../core/rules/results'

/** A decision table from a file, for a step of a rule. */
export default defineRoute('POST /tables/read', ({ workspace, body: { document, step, text } }) => {
  const placed = stepOf(document, step)
  if (!placed) throw notFound(`step ${step}`)
  const catalogue = catalogues(document, workspace.catalogue()).get(step) ?? workspace.catalogue()
  const read = readDmn(text, { catalogue, object: placed.object })
  if (!read.ok)
    throw new ProblemError(422, 'File not imported', 'Nothing was changed.', [
      { path: 'text', text: sayProblem(read.problem) },
    ])
  return read.value
})
