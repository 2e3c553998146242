import { realNow } from '../../../../auth/session'

const DAY_MS = 86_400_000

/** Makes a key for the API. This answer is the only place where it can be read. */
export default defineRoute('POST /account/tokens', ({ workspace, person, body: { name, readOnly, areas, days } }) => {
  const nowMs = realNow()
  return {
    token: workspace.store.keys.create(person.id, name, nowMs, {
      readOnly,
      areas,
      expiresAt: days === null ? null : nowMs + days * DAY_MS,
    }),
  }
})
