import { z } from 'zod'
import { zTelling } from '../../core/telling/telling'
import { zBookingPage } from '../../core/booking/page'
import { contract, zId, zInstant, zOk, zPersonId } from './contract'

const zSlug = z
  .string()
  .max(60)
  .regex(/^[a-z\d]+(-[a-z\d]+)*$/, 'Use lower-case letters, digits and dashes.')
const zSlugParam = z.object({ slug: zSlug })

export const appointments = {
  'GET /booking-pages': contract({
    section: 'Appointments',
    does: 'List booking pages',
    answer: z.strictObject({ pages: z.array(zBookingPage.extend({ slug: z.string() })) }),
  }),
  'PUT /booking-pages/:slug': contract({
    section: 'Appointments',
    does: 'Create or change a booking page',
    params: zSlugParam,
    body: zBookingPage,
    answer: zOk,
  }),
  'DELETE /booking-pages/:slug': contract({
    section: 'Appointments',
    does: 'Delete a booking page',
    more: 'Appointments that were booked stay, and can still be cancelled by their link.',
    params: zSlugParam,
    answer: zOk,
  }),
  'GET /calendar': contract({
    section: 'Appointments',
    does: 'List appointments between two instants',
    query: z.object({
      from: z.coerce.number().pipe(zInstant),
      to: z.coerce.number().pipe(zInstant).describe('at most 62 days later'),
    }),
    answer: z.strictObject({
      appointments: z.array(
        z.strictObject({
          id: zId,
          name: z.string(),
          startMs: zInstant,
          endMs: zInstant,
          status: z.string(),
          place: z.string(),
          ownerId: zPersonId.nullable(),
          contacts: z.array(z.string()).describe('names'),
        }),
      ),
    }),
  }),
  'POST /calendar/files': contract({
    section: 'Appointments',
    does: 'Import appointments from an iCalendar file',
    more: 'They become yours. Imported again, the same appointments are updated.',
    most: 5_000_000,
    body: z.strictObject({ text: z.string().max(5_000_000) }),
    answer: z.strictObject({
      added: z.int(),
      changed: z.int(),
      same: z.int(),
      passed: z.int().describe('whole days, which are no appointments'),
    }),
  }),
  'GET /account/notifications': contract({
    section: 'Account',
    does: 'Get how you are notified',
    answer: zTelling.extend({
      hasChat: z.boolean().describe('a chat address is stored; it is not shown again'),
      kinds: z
        .array(z.strictObject({ kind: z.string(), title: z.string() }))
        .describe('kinds of problems that you are told of, but for those in `muted`'),
    }),
  }),
  'PUT /account/notifications': contract({
    section: 'Account',
    does: 'Set how you are notified',
    body: zTelling.extend({
      chat: z
        .url({ protocol: /^https?$/ })
        .max(1000)
        .optional()
        .describe('chat address; left out, the one before stays'),
    }),
    answer: zOk,
  }),
  'GET /account/calendar-feed': contract({
    section: 'Account',
    does: 'Get the secret address of your calendar feed',
    answer: z.strictObject({ path: z.string().nullable().describe('null if there is none') }),
  }),
  'POST /account/calendar-feed': contract({
    section: 'Account',
    does: 'Create a new address for your calendar feed',
    more: 'An earlier address stops working.',
    answer: z.strictObject({ path: z.string() }),
  }),
  'DELETE /account/calendar-feed': contract({
    section: 'Account',
    does: 'Remove your calendar feed',
    answer: zOk,
  }),
}
