import { listPage } from '../../pages/booking'
import { aroundOf, showPage } from '../../utils/booking'

/** What can be booked. */
export default defineFrontDoor(null, (_, event) => {
  const pages = useWorkspace()
    .store.booking.pages()
    .filter((page) => page.open)
  return showPage(event, listPage(aroundOf(event), pages))
})
