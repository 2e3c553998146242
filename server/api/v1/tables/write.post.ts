import { writeDmn } from '../../../../core/formats/dmn'
import { stepOf } from '../../../../core/rules/edit'
import { catalogues } from '../../../../core/rules/results'
import type { DecisionTable } from '../../../../core/tables/table'

/** The decision table of a step as a file. */
export default defineRoute('POST /tables/write', ({ event, workspace, body: { document, step } }) => {
  const placed = stepOf(document, step)
  if (placed?.step.kind !== 'decide') throw notFound(`a decision table in step ${step}`)
  const catalogue = catalogues(document, workspace.catalogue()).get(step) ?? workspace.catalogue()
  setResponseHeader(event, 'content-type', 'application/xml; charset=utf-8')
  setResponseHeader(event, 'content-disposition', 'attachment; filename="table.dmn"')
  return writeDmn((placed.step.params as { readonly table: DecisionTable }).table, document.name, {
    catalogue,
    object: placed.object,
  })
})
