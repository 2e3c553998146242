import { z } from 'zod'
import { choose, contactOf, showPreferences } from '../../utils/preferences'

const zChosen = z.object({ mail: z.literal('yes').optional(), text: z.literal('yes').optional() })

export default defineFrontDoor(zChosen, (chosen, event) => {
  const contactId = contactOf(event)
  if (contactId !== null) choose(contactId, (channel) => chosen[channel] === 'yes', 'by link')
  return showPreferences(event, true)
})
