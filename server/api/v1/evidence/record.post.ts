import { seeRecord } from '../../../views/why'

/** Each condition of a rule with what it sees on one record, unsaved edits included. */
export default defineRoute('POST /evidence/record', ({ workspace, body: { document, id } }) => {
  const seen = seeRecord(workspace, document, id)
  if (!seen) throw notFound(`${document.object} ${id}`)
  return seen
})
