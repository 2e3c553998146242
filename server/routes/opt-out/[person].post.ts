import { z } from 'zod'
import { choose, contactOf, isChannel } from '../../utils/preferences'

/** One click in a mail program (RFC 8058): at once, with no page between and nobody signed in. */
export default defineFrontDoor(z.object({ 'List-Unsubscribe': z.literal('One-Click') }), (_, event) => {
  const { channel } = getQuery(event)
  const contactId = contactOf(event)
  if (contactId === null || !isChannel(channel)) {
    setResponseStatus(event, 404)
    return { opted: null }
  }
  choose(contactId, (one) => (one === channel ? false : null), 'by link')
  return { opted: channel }
})
