import { makeSegment } from '../../../engine/segments'

export default defineRoute('POST /segments', ({ workspace, person, body }) => {
  fitting(body.filter, body.object)
  return { id: makeSegment(workspace, body, person.id) }
})
