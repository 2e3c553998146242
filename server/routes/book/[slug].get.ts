import { showBooking } from '../../utils/booking'

/** One kind of appointment with its free times. */
export default defineFrontDoor(null, (_, event) => showBooking(event, { name: '', email: '', note: '' }))
