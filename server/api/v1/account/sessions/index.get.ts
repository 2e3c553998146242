import { realNow } from '../../../../auth/session'

/** The browsers in which one is signed in, the last used first. */
export default defineRoute('GET /account/sessions', ({ workspace, person, signed }) => ({
  sessions: workspace.store.sessions.list(person.id, realNow()).map((one) => ({
    ...one,
    current: signed.by.what === 'session' && signed.by.id === one.id,
  })),
}))
