import { DEMO_PASSWORD } from '../../../auth/demo'
import { isLocal } from '../../../auth/set-up-code'
import { signedIn } from '../../../auth/session'

/** Who is signed in, and what the sign-in page needs to know. A demo workspace shows its accounts, no other does. */
export default defineEntry('GET /session', ({ event, workspace }) => {
  const catalogue = workspace.catalogueOrNull()
  if (!catalogue)
    return { state: 'empty' as const, workspace: '', needsCode: !isLocal(event), person: null, demo: null }
  const found = signedIn(event, workspace)
  const { name, demo } = catalogue.workspace
  return {
    state: found ? ('in' as const) : ('out' as const),
    workspace: name,
    needsCode: false,
    person: found?.personId ?? null,
    demo: demo
      ? {
          password: DEMO_PASSWORD,
          people: catalogue.people
            .filter((one) => one.active)
            .map(({ id, name: who, email, role, title }) => ({ id, name: who, email, role, title })),
        }
      : null,
  }
})
