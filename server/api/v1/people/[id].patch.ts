import { z } from 'zod'
import { ROLES } from '../../../../core/fields/field'
import { isDate } from '../../../../core/time/dates'
import { hashPassword, PASSWORD_LEAST, PASSWORD_MOST } from '../../../auth/password'

const params = z.object({ id: z.string().max(100) })
const day = z.string().refine(isDate, 'is not a date').nullable()
const body = z.strictObject({
  name: z.string().trim().min(1, 'is missing').max(100).optional(),
  role: z.enum(ROLES).optional(),
  team: z.string().trim().max(100).optional(),
  title: z.string().trim().max(100).optional(),
  active: z.boolean().optional(),
  awayFrom: day.optional(),
  awayTo: day.optional(),
  deputyId: z.string().max(100).nullable().optional(),
  password: z.string().min(PASSWORD_LEAST, `needs at least ${PASSWORD_LEAST} characters`).max(PASSWORD_MOST).optional(),
})

/** Changes somebody: role, team, away dates, deputy, whether they still work here, or a new first password. */
export default defineRoute({ route: 'PATCH /people/:id', params, body }, async ({ workspace, params: { id }, body: { password, ...change } }) => {
  const passwordHash = password === undefined ? null : await hashPassword(password)
  const catalogue = workspace.catalogue()
  const person = catalogue.person(id)
  if (!person) throw notFound(`person “${id}”`)
  const after = { ...person, ...change }
  const refuse = (path: string, text: string) => new ProblemError(422, 'Refused', 'Nothing was written.', [{ path, text }])
  // Somebody must be able to let people in again.
  const others = catalogue.people.filter((one) => one.id !== id && one.active && one.role === 'specialist')
  if (others.length === 0 && (after.role !== 'specialist' || !after.active)) throw refuse(after.active ? 'role' : 'active', 'the workspace would be left without a specialist')
  if ((after.awayFrom === null) !== (after.awayTo === null)) throw refuse('awayTo', 'the first and the last day away belong together')
  if (after.awayFrom !== null && after.awayTo !== null && after.awayTo < after.awayFrom) throw refuse('awayTo', 'is before the first day away')
  if (after.deputyId !== null && (after.deputyId === id || !catalogue.person(after.deputyId))) throw refuse('deputyId', 'is nobody who could stand in')
  if (passwordHash !== null && catalogue.workspace.demo) throw new ProblemError(403, 'Not allowed', 'Passwords of a demo workspace stay as they are.')
  workspace.db.atomically(() => {
    workspace.store.people.update(id, change)
    if (passwordHash !== null) workspace.store.people.setPassword(id, passwordHash)
    else if (!after.active || after.role !== person.role) workspace.store.people.endSessions(id)
  })
  workspace.tellCatalogue()
  return { ok: true }
})
