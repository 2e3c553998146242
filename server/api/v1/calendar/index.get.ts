import { seesRecord } from '../../../../core/access/scope'
import { appointmentsBetween, eventOf } from '../../../engine/calendar'

const SPAN_MOST_MS = 62 * 86_400_000

export default defineRoute('GET /calendar', ({ workspace, scope, query: { from, to } }) => {
  if (to < from || to - from > SPAN_MOST_MS) throw new ProblemError({ code: 'periodTooLong', days: 62 })
  return {
    appointments: appointmentsBetween(workspace, from, to)
      .filter(({ values }) => seesRecord(scope, values))
      .map((record) => {
        const { startMs, endMs, summary, place } = eventOf(workspace, record)
        const contacts = workspace.world
          .linked({ object: 'appointment', id: record.id }, 'contact')
          .filter((one) => seesRecord(scope, one.record.values))
        return {
          id: record.id,
          name: summary,
          startMs,
          endMs,
          status: String(record.values.status ?? 'booked'),
          place,
          ownerId: typeof record.values.owner === 'string' ? record.values.owner : null,
          contacts: contacts.map((one) => String(one.record.values.name ?? '')),
        }
      }),
  }
})
