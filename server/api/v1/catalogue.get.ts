import { ACTS } from '../../../core/access/acts'

/** Everything screens need to speak about records: fields, pipelines, people, and who is looking. */
export default defineRoute('GET /catalogue', ({ workspace, person }) => ({
  data: { ...workspace.catalogue().data, formerNames: [], rates: [] },
  me: person.id,
  acts: ACTS[person.role],
  live: workspace.live.markOf(),
  nowMs: workspace.clock.nowMs(),
  today: workspace.today(),
}))
