import { checkCard } from '../../../engine/scorecards'

/** What a scorecard as it is written comes to for all records, beside what they have now. */
export default defineRoute('POST /scorecards/preview', async ({ workspace, body: { object, id, ...card } }) => {
  // What does not fit is told as a refusal, which a thread beside this one cannot do.
  checkCard(workspace, object, card, id)
  return useReader().ask('scoring', { object, card, id })
})
