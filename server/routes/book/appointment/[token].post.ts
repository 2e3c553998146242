import { z } from 'zod'
import { cancelBooking, moveBooking } from '../../../engine/booking'
import { bookedBy, refusedText, showBooked } from '../../../utils/booking'

const zAsked = z.object({
  do: z.enum(['move', 'cancel']),
  start: z.coerce.number().int().min(0).max(8.64e15).optional(),
})

/** Moves or cancels what was booked. */
export default defineFrontDoor(zAsked, async (asked, event): Promise<unknown> => {
  const workspace = useWorkspace()
  const record = bookedBy(event)
  if (!record) return showBooked(event)
  try {
    if (asked.do === 'cancel') cancelBooking(workspace, record.id)
    else if (asked.start === undefined) return showBooked(event, 'Choose a time.', 422)
    else moveBooking(workspace, record.id, asked.start)
  } catch (error) {
    return showBooked(event, refusedText(error), 409)
  }
  return await sendRedirect(event, event.path, 303)
})
