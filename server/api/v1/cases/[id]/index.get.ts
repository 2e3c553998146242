import { stringify } from 'yaml'
import { caseFile } from '../../../../engine/cases'

export default defineRoute('GET /cases/:id', ({ workspace, params: { id } }) => {
  const kept = workspace.store.cases.get(id)
  if (!kept) throw notFound(`test case ${id}`)
  // What it takes from the workspace, and the rules, are not part of what is edited; what is looked at most comes
  // first.
  const {
    people: _p,
    fields: _f,
    pipelines: _l,
    rules: _r,
    workdays: _w,
    hours: _h,
    holidays: _o,
    records,
    links,
    ...own
  } = kept.document
  return {
    id,
    name: kept.name,
    text: stringify({ ...own, records, links }),
    file: stringify(caseFile(workspace, kept)),
  }
})
