import { z } from 'zod'
import { book } from '../../engine/booking'
import { signed } from '../../engine/signed-link'
import { refusedText, showBooking } from '../../utils/booking'

const zAsked = z.object({
  start: z.coerce.number().int().min(0).max(8.64e15).optional(),
  name: z.string().trim().max(200).default(''),
  email: z.string().trim().max(300).default(''),
  note: z.string().trim().max(1000).default(''),
  visitor: z.string().max(60).default(''),
})

/** What keeps a form from being a booking, in words for whoever sent it. */
function missing({ start, name, email }: z.infer<typeof zAsked>): string | null {
  if (start === undefined) return 'Choose a time.'
  if (name === '') return 'Enter your name.'
  return z.email().safeParse(email).success ? null : 'Enter an email address such as name@example.com.'
}

/** Books, and leads to where the appointment can be changed; what is refused keeps what was entered. */
export default defineFrontDoor(zAsked, async (asked, event): Promise<unknown> => {
  const workspace = useWorkspace()
  const page = workspace.store.booking.page(getRouterParam(event, 'slug') ?? '')
  const wrong = missing(asked)
  if (!page?.open || wrong !== null || asked.start === undefined)
    return showBooking(event, asked, wrong ?? undefined, 422)
  try {
    const { id } = book(workspace, page, {
      ...asked,
      startMs: asked.start,
      visitor: /^[\da-f]{32}$/.test(asked.visitor) ? asked.visitor : null,
    })
    const { zone } = getQuery(event)
    const query = typeof zone === 'string' ? `?${new URLSearchParams({ zone }).toString()}` : ''
    return await sendRedirect(event, `/book/appointment/${signed(workspace, 'appointment', id)}${query}`, 303)
  } catch (error) {
    return showBooking(event, asked, refusedText(error), 409)
  }
})
