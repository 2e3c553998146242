import { z } from 'zod'

const body = z.strictObject({ name: z.string().trim().min(1).max(100) })

/** Makes a key for the API. This answer is the only place where it can be read. */
export default defineRoute({ route: 'POST /account/tokens', body }, ({ workspace, person, body: { name } }) =>
  ({ token: workspace.store.people.createToken(person.id, name, workspace.clock.nowMs()) }))
