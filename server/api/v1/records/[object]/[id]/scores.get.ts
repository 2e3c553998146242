import { scoresOf } from '../../../../../engine/scorecards'

/** The scores of a record, line by line. */
export default defineRoute('GET /records/:object/:id/scores', ({ workspace, scope, params: ref }) => {
  visibleRecord({ workspace, scope }, ref)
  return { scores: scoresOf(workspace, ref, scope) }
})
