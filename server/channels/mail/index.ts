import type { Mailbox } from '../../stand-ins/mailbox'
import type { Channel } from '../channel'

/** Email. The service that takes it is simulated: no message ever leaves the machine. */
export const mail = (mailbox: Mailbox): Channel & { readonly name: 'mail' } => ({
  name: 'mail',
  deliver(parcel) {
    mailbox(parcel)
    return Promise.resolve({ is: 'taken' })
  },
})
